import { worseKinds } from '../balance/worse-kinds.js';

/**
 * What the process ends with: the design is fine, or it falls short; 130 and 143 where it was interrupted (SIGINT, SIGTERM). A call that
 * cannot be used ends with 2.
 */
export type ExitCode = 0 | 1 | 130 | 143;
export type Format = 'text' | 'json';
export const compareFormats = ['text', 'json', 'markdown'] as const;
export const levelsFormats = ['text', 'csv', 'json'] as const;
export const dialsFormats = ['text', 'csv', 'json'] as const;
export const failKinds = [...worseKinds, 'any'] as const;
export const simulateFormats = ['text', 'json', 'junit'] as const;
export type SimulateFormat = (typeof simulateFormats)[number];

export const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;
