export function buildIfStale(): void;
