/** Stands in for SvelteKit’s state where a model of a screen is tested without a browser. */
export const navigating = { to: null, complete: null };
