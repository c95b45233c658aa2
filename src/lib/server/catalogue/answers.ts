// How records that are set up are answered, for the OpenAPI document. What they are made of is held
// by their types; that what is answered is of this form, by answers.db.test.ts.
import { z } from 'zod';
import type { Marking } from '../../core/catalogue/marking.ts';
import type { ProductRecord } from '../../core/catalogue/product-record.ts';
import { LANGUAGES } from '../../core/papers/language.ts';
import type { Company } from './company.ts';
import type { PartnerRecord, PlaceRecord } from './partners-places.ts';

const orNothing = z.string().nullable();
const wholeOrNothing = z.int().nullable();
const marking = z.enum(['none', 'lot', 'serial', 'serial-in-lot']) satisfies z.ZodType<Marking>;

export const ProductAnswer = z
  .strictObject({
    code: z.string(),
    name: z.string(),
    unit: z.string(),
    decimals: z.int(),
    made: z.boolean(),
    marking,
    plan: orNothing,
    shelfLifeDays: wholeOrNothing,
    warrantyMonths: wholeOrNothing,
    gtin: orNothing,
    netWeightKg: orNothing,
    grossWeightKg: orNothing,
    lengthCm: orNothing,
    widthCm: orNothing,
    heightCm: orNothing,
    overReceiptPercent: z.string(),
    lotScheme: orNothing,
    serialScheme: orNothing,
    units: z.array(z.strictObject({ name: z.string(), holds: z.string(), gtin: orNothing })),
    components: z
      .array(
        z.strictObject({
          product: z.string(),
          name: z.string(),
          unit: z.string(),
          marking,
          quantity: z.string()
        })
      )
      .meta({ description: 'What one takes, by the bill in force today' })
  })
  .meta({ id: 'ProductAnswer' }) satisfies z.ZodType<ProductRecord>;

export const PartnerAnswer = z
  .strictObject({
    code: z.string(),
    name: z.string(),
    supplier: z.boolean(),
    customer: z.boolean(),
    gln: orNothing,
    address: z.string(),
    contact: z.string(),
    language: z.enum(LANGUAGES),
    warrantyMonths: wholeOrNothing
  })
  .meta({ id: 'PartnerAnswer' }) satisfies z.ZodType<PartnerRecord>;

export const PlaceAnswer = z
  .strictObject({
    code: z.string(),
    name: z.string(),
    kind: z.string(),
    site: z.string(),
    siteName: z.string()
  })
  .meta({ id: 'PlaceAnswer' }) satisfies z.ZodType<PlaceRecord>;

export const CompanyAnswer = z
  .strictObject({
    name: z.string(),
    gs1Prefix: z.string(),
    address: z.string(),
    currency: orNothing
  })
  .meta({ id: 'CompanyAnswer' }) satisfies z.ZodType<Company>;
