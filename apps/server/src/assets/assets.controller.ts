import { MOST_WAV_BYTES } from '@abyssal/core';
import { Controller, Get, Param, Post, Req, Res, StreamableFile } from '@nestjs/common';
import { ApiBody, ApiConsumes, ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Request, Response } from 'express';
import { AssetDto } from './asset.dto.js';
import { AssetsService } from './assets.service.js';
import { readBody } from './read-body.js';

@ApiTags('assets')
@Controller('api/assets')
export class AssetsController {
  constructor(private readonly assets: AssetsService) {}

  @Post()
  @ApiConsumes('audio/wav')
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  @ApiCreatedResponse({ type: AssetDto })
  async keep(@Req() request: Request, @Res({ passthrough: true }) response: Response): Promise<AssetDto> {
    let body: Buffer;
    try {
      body = await readBody(request, MOST_WAV_BYTES);
    } catch (error) {
      response.setHeader('Connection', 'close');
      throw error;
    }
    return this.assets.keep(body);
  }

  @Get(':hash')
  @ApiOkResponse({ content: { 'audio/wav': { schema: { type: 'string', format: 'binary' } } } })
  async read(
    @Param('hash') hash: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<StreamableFile> {
    const bytes = await this.assets.read(hash);
    response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
    return new StreamableFile(bytes, { type: 'audio/wav', length: bytes.length });
  }
}
