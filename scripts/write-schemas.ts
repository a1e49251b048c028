import { mkdirSync, writeFileSync } from 'node:fs';
import { FILE_KINDS } from '#core/contract/fileKinds';
import { fileJsonSchema } from '#core/contract/jsonSchema';

/** `npm run schema`: writes the published JSON Schemas; a test holds them to the code. */
const folder = new URL('../docs/schema/', import.meta.url);
mkdirSync(folder, { recursive: true });
for (const kind of FILE_KINDS) {
  const path = new URL(`${kind}.schema.json`, folder);
  writeFileSync(path, `${JSON.stringify(fileJsonSchema(kind), null, 2)}\n`);
}
