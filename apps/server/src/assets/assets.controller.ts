import { Readable } from 'node:stream';
import { Controller, Get, Param, Post, Req, Res, StreamableFile } from '@nestjs/common';
import { ApiBody, ApiConsumes, ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { AssetDto } from './asset.dto.js';
import { AssetsService } from './assets.service.js';
import { Uploads } from './uploads.js';

@ApiTags('assets')
@Controller('api/assets')
export class AssetsController {
  constructor(
    private readonly assets: AssetsService,
    private readonly uploads: Uploads,
  ) {}

  @Post()
  @ApiConsumes('audio/wav')
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  @ApiCreatedResponse({ type: AssetDto })
  keep(@Req() request: Request): Promise<AssetDto> {
    return this.uploads.take(request, (file) => this.assets.keep(file));
  }

  @Get(':hash')
  @ApiOkResponse({ content: { 'audio/wav': { schema: { type: 'string', format: 'binary' } } } })
  async read(
    @Param('hash') hash: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const { size, pieces } = await this.assets.read(hash);
    response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    return new StreamableFile(Readable.from(pieces, { objectMode: false }), {
      type: 'audio/wav',
      length: size,
    });
  }
}
