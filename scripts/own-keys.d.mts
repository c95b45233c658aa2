export function sealKeyFile(folder: string): string;
export function factorKeyFile(folder: string): string;
