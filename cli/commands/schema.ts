import { FILE_KINDS } from '#core/contract/fileKinds';
import { fileJsonSchema } from '#core/contract/jsonSchema';
import { CallError, EXIT } from '../exit.ts';

export function schema(kind: string): number {
  const known = FILE_KINDS.find((name) => name === kind);
  if (!known) {
    throw new CallError(`schema: expected ${FILE_KINDS.join(' or ')}, found "${kind}".`);
  }
  process.stdout.write(`${JSON.stringify(fileJsonSchema(known), null, 2)}\n`);
  return EXIT.done;
}
