import type { Actor } from '$lib/server/kernel/actor.ts';

declare global {
  namespace App {
    interface Locals {
      /** Who is asking; null where nobody is signed in. */
      actor: Actor | null;
    }
    interface Error {
      message: string;
    }
  }
}
export {};
