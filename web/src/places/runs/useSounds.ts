import { useLocalStorage } from '@vueuse/core'

/** A high tone for yes and two low ones for no, which somebody hears who looks elsewhere. */
export function useSounds() {
  const on = useLocalStorage('sounds', true)
  let context: AudioContext | undefined

  function tone(hertz: number, after: number, seconds: number) {
    context ??= new AudioContext()
    const oscillator = context.createOscillator()
    const gain = context.createGain()
    const begin = context.currentTime + after
    oscillator.frequency.value = hertz
    gain.gain.setValueAtTime(0.2, begin)
    gain.gain.setTargetAtTime(0, begin + seconds, 0.02)
    oscillator.connect(gain).connect(context.destination)
    oscillator.start(begin)
    oscillator.stop(begin + seconds + 0.15)
  }
  return {
    on,
    toggle: () => (on.value = !on.value),
    yes: () => {
      if (on.value) tone(880, 0, 0.1)
    },
    no: () => {
      if (!on.value) return
      tone(220, 0, 0.16)
      tone(165, 0.22, 0.3)
    },
  }
}
