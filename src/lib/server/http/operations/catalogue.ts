import {
  CompanyAnswer,
  PartnerAnswer,
  PlaceAnswer,
  ProductAnswer
} from '../../catalogue/answers.ts';
import {
  Bill,
  BillQuery,
  Company,
  ExplosionQuery,
  IdentityQuery,
  MarkingPlan,
  NumberBlock,
  NumberingScheme,
  NumbersWanted,
  Partner,
  Place,
  Product
} from '../../catalogue/schemas.ts';
import { anything, file, type Operation } from './operation.ts';

/** What is set up: products, partners, places, numbers, ourselves. */
export const CATALOGUE_OPERATIONS: readonly Operation[] = [
  {
    method: 'put',
    path: '/products/{code}',
    summary: 'Set a product up, or change it',
    body: Product,
    answer: ProductAnswer
  },
  { method: 'get', path: '/products/{code}', summary: 'A product', answer: ProductAnswer },
  {
    method: 'put',
    path: '/partners/{code}',
    summary: 'Set a supplier or customer up, or change it',
    body: Partner,
    answer: PartnerAnswer
  },
  { method: 'get', path: '/partners/{code}', summary: 'A partner', answer: PartnerAnswer },
  {
    method: 'put',
    path: '/places/{code}',
    summary: 'Set a place up, or change it',
    body: Place,
    answer: PlaceAnswer
  },
  { method: 'get', path: '/places/{code}', summary: 'A place', answer: PlaceAnswer },
  {
    method: 'put',
    path: '/numbering-schemes/{code}',
    summary: 'Set a numbering scheme up, or change it; its counter goes on',
    body: NumberingScheme,
    answer: anything
  },
  {
    method: 'get',
    path: '/marking-plans',
    summary: 'All marking plans in their present version',
    answer: anything
  },
  {
    method: 'put',
    path: '/marking-plans/{code}',
    summary: 'Set a marking plan up, or give it a new version',
    body: MarkingPlan,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/identity',
    summary: 'What marking a product differently would mean for what is on hand',
    query: IdentityQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/bill',
    summary: 'The bill of a product: the version in force, or another',
    query: BillQuery,
    answer: anything
  },
  {
    method: 'put',
    path: '/products/{code}/bill',
    summary: 'Give a product’s bill a new version',
    body: Bill,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/explosion',
    summary: 'What so much of a product takes, through all levels',
    query: ExplosionQuery,
    answer: anything
  },
  {
    method: 'get',
    path: '/products/{code}/where-used',
    summary: 'What a product goes into, directly or through others',
    answer: anything
  },
  { method: 'get', path: '/numbering-schemes', summary: 'All numbering schemes', answer: anything },
  {
    method: 'post',
    path: '/numbers',
    summary: 'Allot a block of new numbers, each given once',
    body: NumbersWanted,
    answer: NumberBlock,
    booking: true
  },
  {
    method: 'get',
    path: '/company',
    summary: 'How we are named on labels, notices and letters',
    answer: CompanyAnswer
  },
  {
    method: 'put',
    path: '/company',
    summary: 'Change how we are named',
    body: Company,
    answer: CompanyAnswer
  },
  {
    method: 'get',
    path: '/products/{code}/picture',
    summary: 'What a product looks like, as PNG or JPEG; 204 where it has no picture',
    answer: file('image/png', 'image/jpeg')
  },
  {
    method: 'put',
    path: '/products/{code}/picture',
    summary: 'Set what a product looks like: the body is a PNG or JPEG of at most 1 MB',
    answer: anything
  },
  {
    method: 'delete',
    path: '/products/{code}/picture',
    summary: 'Take a product’s picture off',
    answer: anything
  }
];
