import { distance } from 'fastest-levenshtein';
import { z } from 'zod';
import { failure, success, type Result } from '../result.ts';

/**
 * Validation errors as sentences of one form: where, what was expected, what was found. The same
 * sentences are shown by the page, the server and the command line.
 */

/** One thing that is wrong, with the dotted path of the key it is about. */
export interface Problem {
  readonly key: string;
  readonly sentence: string;
}

/** A key at most this many edits away from a known one was probably a slip. */
const SLIP_EDITS = 3;

/** What was found is quoted up to this many characters. */
const QUOTE_LENGTH = 60;

type Issue = z.core.$ZodIssue;
interface JsonSchema {
  properties?: Record<string, JsonSchema>;
  items?: JsonSchema;
  anyOf?: JsonSchema[];
}

export function validate<T>(
  schema: z.ZodType<T>,
  value: unknown,
): Result<T> & { problems: Problem[] } {
  const parsed = schema.safeParse(value);
  if (parsed.success) return { ...success(parsed.data), problems: [] };
  const problems = explain(parsed.error, schema, value);
  return { ...failure(problems.map((problem) => problem.sentence).join(' ')), problems };
}

export function explain(error: z.ZodError, schema: z.ZodType, value: unknown): Problem[] {
  return error.issues.flatMap((issue) => explainIssue(issue, schema, value));
}

function explainIssue(issue: Issue, schema: z.ZodType, value: unknown): Problem[] {
  const key = issue.path.map(String).join('.');
  if (issue.code === 'unrecognized_keys') {
    const allowed = allowedKeys(schema, issue.path);
    return issue.keys.map((unknown) => ({
      key: key ? `${key}.${unknown}` : unknown,
      sentence: unknownKeySentence(key, unknown, allowed),
    }));
  }
  const branch = issue.code === 'invalid_union' ? meantBranch(issue) : null;
  if (branch) {
    return branch.flatMap((inner) =>
      explainIssue({ ...inner, path: [...issue.path, ...inner.path] }, schema, value),
    );
  }
  const found = quote(valueAt(value, issue.path));
  const where = key || 'the whole';
  return [{ key, sentence: `${where}: expected ${expectation(issue)}, found ${found}.` }];
}

function unknownKeySentence(parent: string, unknown: string, allowed: string[]): string {
  const near = allowed
    .map((name) => ({ name, edits: distance(name, unknown) }))
    .filter(({ edits }) => edits <= SLIP_EDITS)
    .sort((a, b) => a.edits - b.edits)[0];
  const hint = near ? ` Did you mean "${near.name}"?` : '';
  const place = parent ? `${parent}: ` : '';
  return `${place}unknown key "${unknown}".${hint} Allowed: ${allowed.join(', ')}.`;
}

function expectation(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return article(issue.expected);
    case 'invalid_value':
      return issue.values.length === 1
        ? quote(issue.values[0])
        : `one of ${issue.values.map((value) => String(value)).join(', ')}`;
    case 'too_small':
      return bound(issue.origin, issue.minimum, issue.inclusive ? 'at least' : 'above');
    case 'too_big':
      return bound(issue.origin, issue.maximum, issue.inclusive === false ? 'below' : 'at most');
    case 'invalid_union':
      return unionExpectation(issue);
    case 'invalid_format':
      return formatExpectation(issue);
    default:
      return issue.message || 'another value';
  }
}

function formatExpectation({
  pattern,
  format,
}: Extract<Issue, { code: 'invalid_format' }>): string {
  if (!pattern?.includes('[0-9a-fA-F]{6}')) return `text of the form ${format}`;
  const named = pattern.includes('original') ? 'light, dark, original or ' : '';
  return `${named}a colour as #rrggbb`;
}

/** Of several kinds of object the one that was meant: by the key `rule`, else by the keys it has. */
function meantBranch(union: Extract<Issue, { code: 'invalid_union' }>): Issue[] | null {
  // No kind has the name that was given: there are no branches to choose of.
  if (union.errors.length === 0) return null;
  const isOtherKind = (issue: Issue): boolean =>
    issue.code === 'invalid_type' && issue.expected !== 'int' && issue.path.length === 0;
  const ofKind = union.errors.filter((branch) => !branch.some(isOtherKind));
  if (ofKind.length === 1) return ofKind[0];
  const errors = ofKind.length > 0 ? ofKind : union.errors;
  const isOther = (issue: Issue): boolean =>
    issue.path[0] === 'rule' && issue.code === 'invalid_value';
  const isUnknownKey = (issue: Issue): boolean =>
    issue.code === 'unrecognized_keys' && issue.path.length === 0;
  const own = errors.filter((branch) => !branch.some(isOther));
  if (own.length === 1) return own[0];
  if (own.length === 0) {
    const named = errors.flat().filter(isOther);
    const values = named.flatMap((issue) => (issue.code === 'invalid_value' ? issue.values : []));
    return [{ ...named[0], values } as Issue];
  }
  const known = own.filter((branch) => !branch.some(isUnknownKey));
  return known.length === 1 ? known[0] : null;
}

function unionExpectation(issue: Extract<Issue, { code: 'invalid_union' }>): string {
  if ('options' in issue && issue.options) return `one of ${issue.options.join(', ')}`;
  const parts = issue.errors.map((branch) =>
    branch[0] ? expectation(branch[0]) : 'another value',
  );
  return [...new Set(parts)].join(' or ');
}

function bound(origin: string, limit: number | bigint, word: string): string {
  if (origin === 'string') return `text of ${word} ${limit} characters`;
  if (origin === 'array')
    return limit === 0 || limit === 0n ? 'an empty list' : `${word} ${limit} entries`;
  return `a number ${word} ${limit}`;
}

function article(kind: string): string {
  const names: Record<string, string> = {
    string: 'text',
    int: 'a whole number',
    boolean: 'true or false',
    array: 'a list',
    object: 'an object',
    null: 'null',
  };
  return names[kind] ?? `a ${kind}`;
}

function quote(found: unknown): string {
  if (found === undefined) return 'nothing';
  const text = JSON.stringify(found) ?? String(found);
  return text.length > QUOTE_LENGTH ? `${text.slice(0, QUOTE_LENGTH)}…` : text;
}

function valueAt(value: unknown, path: readonly PropertyKey[]): unknown {
  let here: unknown = value;
  for (const step of path) {
    if (here === null || typeof here !== 'object') return undefined;
    here = (here as Record<PropertyKey, unknown>)[step];
  }
  return here;
}

function allowedKeys(schema: z.ZodType, path: readonly PropertyKey[]): string[] {
  let nodes: JsonSchema[] = [
    z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any' }) as JsonSchema,
  ];
  for (const step of path) {
    nodes = nodes.flatMap(branches).flatMap((node) => {
      const next = typeof step === 'number' ? node.items : node.properties?.[String(step)];
      return next ? [next] : [];
    });
  }
  return [
    ...new Set(nodes.flatMap(branches).flatMap((node) => Object.keys(node.properties ?? {}))),
  ];
}

function branches(node: JsonSchema): JsonSchema[] {
  return node.anyOf ? node.anyOf.flatMap(branches) : [node];
}
