import type { Marking } from './marking.ts';

/** A product as it is set up; measures and amounts are exact decimals as text. */
export interface ProductRecord {
  code: string;
  name: string;
  unit: string;
  decimals: number;
  made: boolean;
  marking: Marking;
  /** Code of its marking plan; null where it is marked by the plain one. */
  plan: string | null;
  shelfLifeDays: number | null;
  warrantyMonths: number | null;
  gtin: string | null;
  netWeightKg: string | null;
  grossWeightKg: string | null;
  lengthCm: string | null;
  widthCm: string | null;
  heightCm: string | null;
  overReceiptPercent: string;
  lotScheme: string | null;
  serialScheme: string | null;
  units: { name: string; holds: string; gtin: string | null }[];
  /** What one takes, by the bill in force today. */
  components: { product: string; name: string; unit: string; marking: Marking; quantity: string }[];
}
