import { CustomerWishes, Spec, SpecQuery } from '../../catalogue/schemas.ts';
import { CertificateRequest, QualityTest } from '../../quality/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** Specs, tests and certificates. */
export const QUALITY_OPERATIONS: readonly Operation[] = [
  {
    method: 'get',
    path: '/products/{code}/spec',
    summary: 'The spec of a product, or of a customer for it',
    query: SpecQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/products/{code}/spec',
    summary: 'Give a spec a new version',
    body: Spec,
    query: SpecQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/partners/{code}/wishes',
    summary: 'What a customer wishes: least remaining life, one lot only, tested goods only',
    body: CustomerWishes,
    answer: anything
  },
  {
    method: 'post',
    path: '/tests',
    summary: 'Record a test of a lot or serial; by its spec a failing one holds it',
    body: QualityTest,
    answer: anything,
    booking: true
  },
  {
    method: 'post',
    path: '/tests/{id}/signature',
    summary: 'Sign a test off, by a second person',
    answer: anything
  },
  {
    method: 'post',
    path: '/certificates',
    summary: 'Issue a certificate of analysis for marks or for a shipment',
    body: CertificateRequest,
    answer: anything
  },
  {
    method: 'get',
    path: '/certificates/{number}',
    summary: 'A certificate as it was issued, as PDF',
    answer: file('application/pdf')
  }
];
