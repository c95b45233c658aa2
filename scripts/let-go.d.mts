export function letGo(sql: { end(options: { timeout: number }): Promise<void> }): Promise<void>;
