/** Stands in for SvelteKit’s navigation where a model of a screen is tested without a browser. */
export const invalidateAll = async (): Promise<void> => {};
export const invalidate = async (): Promise<void> => {};
export const goto = async (): Promise<void> => {};
export const replaceState = (): void => {};
