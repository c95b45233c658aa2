import type { PageServerLoad } from './$types';
import { db } from '$lib/server/kernel/db/client.ts';
import { listProducts } from '$lib/server/catalogue/read-catalogue.ts';

export const load: PageServerLoad = async () => ({ products: await listProducts(db()) });
