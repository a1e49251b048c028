import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { HttpError } from './errors.ts';

/**
 * The server has no accounts: it trusts whoever sits at the computer. These checks keep other web
 * pages in the same browser from speaking to it, by name rebinding or by cross-site requests.
 */
export function guard(port: () => number, extraOrigins: readonly string[]): RequestHandler {
  return (request, _response, next) => {
    const names = ['127.0.0.1', 'localhost', '[::1]'].map((name) => `${name}:${port()}`);
    const host = request.headers.host ?? '';
    const hosts = [...names, ...extraOrigins.map((origin) => origin.replace(/^https?:\/\//, ''))];
    if (!hosts.includes(host)) {
      throw new HttpError(
        403,
        'wrong-host',
        `Expected a request to this computer, found "${host}".`,
      );
    }
    const origin = request.headers.origin;
    const origins = [...names.map((name) => `http://${name}`), ...extraOrigins];
    if (origin !== undefined && !origins.includes(origin)) {
      throw new HttpError(403, 'wrong-origin', 'Requests from other sites are not taken.');
    }
    // Browsers that send it say here where a request without an Origin comes from.
    const site = request.headers['sec-fetch-site'];
    if (site === 'cross-site') {
      throw new HttpError(403, 'wrong-origin', 'Requests from other sites are not taken.');
    }
    next();
  };
}

export function securityHeaders(): RequestHandler {
  return helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'none'"],
        // HarfBuzz is WebAssembly; that word allows it and no script made of text.
        'script-src': ["'self'", "'wasm-unsafe-eval'"],
        // Vue and the chart set element styles; no style is ever made of what a user typed.
        'style-src': ["'self'", "'unsafe-inline'"],
        'img-src': ["'self'", 'blob:', 'data:'],
        'font-src': ["'self'"],
        'connect-src': ["'self'"],
        'worker-src': ["'self'"],
        'manifest-src': ["'self'"],
        'base-uri': ["'none'"],
        'form-action': ["'none'"],
        'frame-ancestors': ["'none'"],
      },
    },
    crossOriginResourcePolicy: { policy: 'same-origin' },
    // Plain HTTP on loopback.
    strictTransportSecurity: false,
  });
}
