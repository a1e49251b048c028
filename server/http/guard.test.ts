import type { NextFunction, Request, Response } from 'express';
import { describe, expect, it } from 'vitest';
import { HttpError } from './errors.ts';
import { guard } from './guard.ts';

const PORT = 4310;

function verdict(headers: Record<string, string>, extra: string[] = []): string {
  let passed = false;
  const next = (() => (passed = true)) as NextFunction;
  try {
    guard(() => PORT, extra)({ headers } as unknown as Request, {} as Response, next);
  } catch (error) {
    if (error instanceof HttpError) return error.code;
    throw error;
  }
  return passed ? 'taken' : 'left hanging';
}

describe('guard', () => {
  it.each([
    [{ host: '127.0.0.1:4310' }],
    [{ host: 'localhost:4310', origin: 'http://localhost:4310' }],
    [{ host: '[::1]:4310' }],
    [{ host: '127.0.0.1:4310', 'sec-fetch-site': 'same-origin' }],
    [{ host: '127.0.0.1:4310', 'sec-fetch-site': 'none' }],
  ])('takes %j', (headers) => {
    expect(verdict(headers)).toBe('taken');
  });

  it.each([
    [{}, 'wrong-host'],
    [{ host: '127.0.0.1:80' }, 'wrong-host'],
    [{ host: 'photos.example:4310' }, 'wrong-host'],
    [{ host: '127.0.0.1:4310.example' }, 'wrong-host'],
    [{ host: '127.0.0.1:4310', origin: 'http://127.0.0.1:9999' }, 'wrong-origin'],
    [{ host: '127.0.0.1:4310', origin: 'https://127.0.0.1:4310' }, 'wrong-origin'],
    [{ host: '127.0.0.1:4310', origin: 'null' }, 'wrong-origin'],
    [{ host: '127.0.0.1:4310', 'sec-fetch-site': 'cross-site' }, 'wrong-origin'],
  ])('refuses %j as %s', (headers, code) => {
    expect(verdict(headers)).toBe(code);
  });

  it('takes a development page where one is named', () => {
    const page = 'http://localhost:5173';
    expect(verdict({ host: 'localhost:5173', origin: page }, [page])).toBe('taken');
    expect(verdict({ host: 'localhost:5173', origin: page })).toBe('wrong-host');
  });
});
