/** Calls back when what was changed is on the screen: a task queued in a frame runs after its paint. */
export function afterPaint(call: () => void) {
  requestAnimationFrame(() => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      call()
    }
    port2.postMessage(undefined)
  })
}
