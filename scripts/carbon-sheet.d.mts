export function componentsUsed(): string[];
export function sourcesOf(components: readonly string[]): string[];
export function carbonSheet(css: string): Promise<string>;
