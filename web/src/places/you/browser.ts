/** What a browser is and runs on, in words, from how it calls itself. */
export function browserName(agent: string): string {
  const first = (names: [RegExp, string][]) => names.find(([is]) => is.test(agent))?.[1]
  const browser = first([
    [/Edg\//, 'Edge'],
    [/OPR\//, 'Opera'],
    [/Firefox\//, 'Firefox'],
    [/Chrom(e|ium)\//, 'Chrome'],
    [/Safari\//, 'Safari'],
  ])
  const system = first([
    [/Android/, 'Android'],
    [/iPhone|iPad/, 'iOS'],
    [/Windows/, 'Windows'],
    [/Mac OS/, 'macOS'],
    [/Linux/, 'Linux'],
  ])
  if (!browser) return agent.slice(0, 60) || 'a program'
  return system ? `${browser} on ${system}` : browser
}
