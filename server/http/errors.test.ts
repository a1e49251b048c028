import express from 'express';
import { pino } from 'pino';
import request from 'supertest';
import { expect, it } from 'vitest';
import { errorHandler } from './errors.ts';

function answerTo(error: unknown) {
  const app = express();
  app.get('/', () => {
    throw error;
  });
  app.use(errorHandler(pino({ level: 'silent' })));
  return request(app).get('/');
}

it('says that our own disk is full, whoever finds out', async () => {
  for (const code of ['SQLITE_FULL', 'SQLITE_IOERR_WRITE', 'ENOSPC']) {
    const { status, body } = await answerTo(Object.assign(new Error('full'), { code }));
    expect([status, body.code]).toEqual([507, 'storage']);
    expect(body.message).toContain('Make room');
  }
});

it('keeps to itself what else went wrong', async () => {
  const { status, body } = await answerTo(new Error('secret /path'));
  expect([status, body.code]).toEqual([500, 'internal']);
  expect(body.message).not.toContain('secret');
});
