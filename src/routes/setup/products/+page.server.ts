import type { PageServerLoad } from './$types';
import { db } from '$lib/server/db/client';
import { listProducts } from '$lib/server/reading/catalogue';

export const load: PageServerLoad = async () => ({ products: await listProducts(db()) });
