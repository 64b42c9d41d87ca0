/** How grave a finding is, and how a printer stands. */
export type Level = 'error' | 'warning' | 'fine' | 'stopped' | 'ready' | 'busy'

/** Each has a shape of its own, so that colour never stands alone. */
export const levels: Record<Level, { mark: string; tone: 'bad' | 'warn' | 'good' }> = {
  error: { mark: '■', tone: 'bad' },
  stopped: { mark: '■', tone: 'bad' },
  warning: { mark: '▲', tone: 'warn' },
  fine: { mark: '✓', tone: 'good' },
  ready: { mark: '●', tone: 'good' },
  busy: { mark: '●', tone: 'good' },
}
