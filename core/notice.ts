/** Something a person should know: what is so, and what they can do about it. A value, never thrown. */
export interface Notice {
  readonly code: string;
  readonly level: 'info' | 'warning' | 'error';
  /** One clear sentence. */
  readonly text: string;
  /** What would help, where something would. */
  readonly wayOut?: string;
}

export function info(code: string, text: string): Notice {
  return { code, level: 'info', text };
}

export function warning(code: string, text: string, wayOut?: string): Notice {
  return wayOut === undefined ? { code, level: 'warning', text } : { code, level: 'warning', text, wayOut };
}

export function failure(code: string, text: string, wayOut?: string): Notice {
  return wayOut === undefined ? { code, level: 'error', text } : { code, level: 'error', text, wayOut };
}
