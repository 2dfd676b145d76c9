export function nodeProgram(source: string): string;
export function ensureNodePrograms(): Promise<void>;
