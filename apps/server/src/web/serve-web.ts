import express, { type NextFunction, type Request, type Response } from 'express';
import helmet from 'helmet';
import type { NestExpressApplication } from '@nestjs/platform-express';

/**
 * The headers of every answer, pages and API alike. A page loads nothing from elsewhere and stands in no frame.
 * Shared memory between the page and its audio thread needs an isolated page; it is served on loopback, without
 * TLS.
 */
export const headers = helmet({
  contentSecurityPolicy: {
    useDefaults: false,
    directives: {
      defaultSrc: ["'self'"],
      styleSrc: ["'self'", "'unsafe-inline'"],
      imgSrc: ["'self'", 'data:', 'blob:'],
      workerSrc: ["'self'", 'blob:'],
      objectSrc: ["'none'"],
      baseUri: ["'none'"],
      formAction: ["'self'"],
      frameAncestors: ["'none'"],
    },
  },
  crossOriginEmbedderPolicy: { policy: 'require-corp' },
  strictTransportSecurity: false,
});

/** Serves the built interface beside the API: files as they are, any other address as the page itself. */
export function serveWeb(app: NestExpressApplication, folder: string): void {
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
    if (wantsPage) response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: folder });
    else next();
  });
}
