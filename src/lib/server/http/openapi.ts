import { z } from 'zod';
import { OPERATIONS } from './operations/all.ts';
import { nothing, type Operation } from './operations/operation.ts';
import { ProblemDocument } from './problem-schema.ts';

/** Schemas with a name of their own, by it: the components of the document. */
type Named = Record<string, object>;

/** A schema as JSON Schema; the named ones it refers to are put among the document's components. */
function component(schema: z.ZodType, io: 'input' | 'output', named: Named): object {
  const {
    $schema: _,
    $defs = {},
    ...json
  } = JSON.parse(
    JSON.stringify(
      z.toJSONSchema(schema, { io, reused: 'inline', unrepresentable: 'any' })
    ).replaceAll('#/$defs/', '#/components/schemas/')
  );
  const { id: name } = schema.meta() ?? {};
  for (const [key, definition] of Object.entries<Record<string, unknown>>($defs)) {
    const { id: __, ...body } = definition;
    named[key] = body;
  }
  if (!name || json.$ref) return json;
  const { id: __, ...body } = json;
  named[name] = body;
  return { $ref: `#/components/schemas/${name}` };
}

const KEY_HEADER = {
  name: 'Idempotency-Key',
  in: 'header',
  required: true,
  schema: { type: 'string', minLength: 1, maxLength: 200 }
};

/** What is asked beside the body: in the path, in the query, and for a booking its key. */
function parametersOf({ path, query, booking }: Operation, named: Named): object[] {
  const inPath = [...path.matchAll(/\{(\w+)\}/g)].map(([, name]) => ({
    name,
    in: 'path',
    required: true,
    schema: { type: 'string' }
  }));
  const inQuery = Object.entries((query?.shape ?? {}) as Record<string, z.ZodType>).map(
    ([name, schema]) => ({
      name,
      in: 'query',
      required: !schema.safeParse(undefined).success,
      schema: component(schema, 'input', named)
    })
  );
  return [...inPath, ...inQuery, ...(booking ? [KEY_HEADER] : [])];
}

const jsonOf = (schema: z.ZodType, io: 'input' | 'output', named: Named): object => ({
  'application/json': { schema: component(schema, io, named) }
});

/** What is answered where it is done, by its media types. */
function contentOf({ answer }: Operation, named: Named): object {
  if (answer instanceof z.ZodType) return jsonOf(answer, 'output', named);
  return Object.fromEntries(answer.mediaTypes.map((type) => [type, {}]));
}

const REFUSED = [400, 401, 403, 404];
const BOOKING_REFUSED = [400, 401, 403, 409, 422];

function responsesOf(operation: Operation, named: Named): Record<number, object> {
  const refusal = {
    description: 'Refused, with all faults',
    content: { 'application/problem+json': { schema: component(ProblemDocument, 'output', named) } }
  };
  const refused = (statuses: readonly number[]) =>
    Object.fromEntries(statuses.map((status) => [status, refusal]));
  if (operation.answer === nothing) return { 204: { description: 'Done' }, ...refused(REFUSED) };
  const content = contentOf(operation, named);
  if (!operation.booking) return { 200: { description: 'Done', content }, ...refused(REFUSED) };
  return {
    201: { description: 'Booked', content },
    200: { description: 'Booked before under this key; the same answer again', content },
    ...refused(BOOKING_REFUSED)
  };
}

const bodyOf = ({ body }: Operation, named: Named): object =>
  body ? { requestBody: { required: true, content: jsonOf(body, 'input', named) } } : {};

/** The OpenAPI 3.1 document, made from the Zod schemas. */
export function openApi(): object {
  const named: Named = {};
  const paths: Record<string, Record<string, object>> = {};
  for (const operation of OPERATIONS)
    (paths[operation.path] ??= {})[operation.method] = {
      summary: operation.summary,
      parameters: parametersOf(operation, named),
      ...bodyOf(operation, named),
      responses: responsesOf(operation, named)
    };
  return {
    openapi: '3.1.0',
    info: {
      title: 'Earmark',
      version: '1',
      description: 'Traceability of lots and serials: bookings, stock and trace.'
    },
    servers: [{ url: '/api/v1' }],
    security: [{ bearer: [] }],
    paths,
    components: { schemas: named, securitySchemes: { bearer: { type: 'http', scheme: 'bearer' } } }
  };
}
