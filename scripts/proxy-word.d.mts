import type { IncomingMessage } from 'node:http';

export const ADDRESS_HEADER: string;
export function proxiesOf(setting: string | undefined): (address: string) => boolean;
export function hear(request: IncomingMessage, isProxy: (address: string) => boolean): void;
