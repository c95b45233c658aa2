export class Plain extends Error {}
export const asRoot: boolean;
export interface ServerUser {
  uid?: number;
  gid?: number;
}
export function aptInstall(packages: readonly string[], forWhat: string): void;
export function serverUser(): ServerUser;
export function bareEnvironment(): Record<string, string>;
export function portFree(port: number, host?: string): Promise<boolean>;
export function anyFreePort(): Promise<number>;
export function makeDataFolder(folder: string): void;
export function checkReachable(folder: string, user: ServerUser): void;
export function makeOwnFolder(folder: string, user: ServerUser): void;
