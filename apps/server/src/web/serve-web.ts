import { join } from 'node:path';
import express, { type NextFunction, type Request, type Response } from 'express';
import type { NestExpressApplication } from '@nestjs/platform-express';

/**
 * Shared memory between the page and its audio thread needs an isolated page; nothing is loaded from
 * elsewhere.
 */
const HEADERS: Readonly<Record<string, string>> = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
  'Referrer-Policy': 'no-referrer',
  'X-Content-Type-Options': 'nosniff',
};
const PAGE_POLICY =
  "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; worker-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'";

/** The headers of every answer. */
export function setHeaders(_request: Request, response: Response, next: NextFunction): void {
  response.set(HEADERS);
  next();
}

/** Serves the built interface beside the API: files as they are, any other address as the page itself. */
export function serveWeb(app: NestExpressApplication, folder: string): void {
  const page = (_request: Request, response: Response) => {
    response
      .set('Content-Security-Policy', PAGE_POLICY)
      .set('Cache-Control', 'no-cache')
      .sendFile(join(folder, 'index.html'));
  };
  app.use(
    express.static(folder, {
      index: false,
      setHeaders: (response, path) => {
        response.setHeader(
          'Cache-Control',
          path.includes('/assets/') ? 'public, max-age=31536000, immutable' : 'no-cache',
        );
      },
    }),
  );
  app.use((request: Request, response: Response, next: NextFunction) => {
    const wantsPage =
      request.method === 'GET' &&
      !request.path.startsWith('/api') &&
      request.accepts(['html', 'json']) === 'html';
    if (wantsPage) page(request, response);
    else next();
  });
}
