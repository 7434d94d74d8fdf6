import { Body, Controller, Get, Param, Post, Res, StreamableFile } from '@nestjs/common';
import { ApiBody, ApiConsumes, ApiCreatedResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import { AssetDto } from './asset.dto.js';
import { AssetsService } from './assets.service.js';

@ApiTags('assets')
@Controller('api/assets')
export class AssetsController {
  constructor(private readonly assets: AssetsService) {}

  @Post()
  @ApiConsumes('audio/wav')
  @ApiBody({ schema: { type: 'string', format: 'binary' } })
  @ApiCreatedResponse({ type: AssetDto })
  keep(@Body() body: Buffer): Promise<AssetDto> {
    // A request without a body has none.
    return this.assets.keep(Buffer.isBuffer(body) ? body : Buffer.alloc(0));
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
