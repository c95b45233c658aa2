export interface Cluster {
  ownerUrl: string;
  appUrl: string;
  startedHere: boolean;
  folder: string;
  stop: () => void;
  restart: () => void;
  pid: () => number | null;
}
export function startCluster(options: {
  folder: string;
  port: number;
  fast?: boolean;
  archive?: boolean;
  patience?: number;
}): Promise<Cluster>;
export function clusterOf(folder: string): string;
export function runningPort(folder: string): number | null;
export function secretFileOf(folder: string): string;
export function socketFolderOf(data: string): string;
export function postgresBin(): string | null;
