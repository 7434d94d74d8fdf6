import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { MOST_WAV_BYTES } from '@abyssal/core';
import { Inject, Injectable, type OnModuleInit } from '@nestjs/common';
import type { Request } from 'express';
import pLimit from 'p-limit';
import { Refusal } from '../problem/problem.js';
import { SETTINGS, type ServerSettings } from '../settings/settings.js';
import { receive, tooLarge, type Received } from './receive.js';

/** Files that are taken in at once; the others wait, unread, in the system's own buffers. */
const AT_ONCE = 6;
const MOST_WAITING = 100;

/** Takes files in, a few at a time, with a bound on memory whatever is sent. */
@Injectable()
export class Uploads implements OnModuleInit {
  private readonly limit = pLimit(AT_ONCE);

  private readonly folder: string;

  constructor(@Inject(SETTINGS) { data }: ServerSettings) {
    this.folder = join(data, 'uploads');
  }

  /** What an earlier run was taking in when it ended is of no use. */
  async onModuleInit(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
    await mkdir(this.folder, { recursive: true });
  }

  /** Takes in the body of a request and does something with it; the file is gone afterwards. */
  async take<T>(request: Request, work: (file: Received) => Promise<T>): Promise<T> {
    if (Number(request.headers['content-length'] ?? 0) > MOST_WAV_BYTES) {
      // Answered before it is sent; what comes all the same is not kept.
      request.res?.setHeader('Connection', 'close');
      request.resume();
      throw tooLarge();
    }
    if (this.limit.pendingCount >= MOST_WAITING)
      throw new Refusal(503, 'busy', 'The server is busy with other files; try again in a moment.');
    return this.limit(async () => {
      const file = await receive(request, this.folder);
      try {
        return await work(file);
      } finally {
        await rm(file.path, { force: true });
      }
    });
  }
}
