/** An expected failure is a value with a reason a person can read; exceptions are for bugs. */
export type Result<T> = { readonly ok: true; readonly value: T } | Failure;

export interface Failure {
  readonly ok: false;
  readonly reason: string;
}

export function success<T>(value: T): Result<T> {
  return { ok: true, value };
}

export function failure(reason: string): Failure {
  return { ok: false, reason };
}
