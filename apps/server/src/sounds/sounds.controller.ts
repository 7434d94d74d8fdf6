import {
  Body,
  Controller,
  Delete,
  Get,
  Headers,
  HttpCode,
  Param,
  ParseUUIDPipe,
  Post,
  Put,
  Query,
  Res,
} from '@nestjs/common';
import { ApiCreatedResponse, ApiHeader, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import type { Response } from 'express';
import { Refusal } from '../problem/problem.js';
import { KeepSoundDto, ListSoundsDto, SoundDto, SoundListDto } from './sound.dto.js';
import { SoundsService } from './sounds.service.js';

const soundId = new ParseUUIDPipe({
  exceptionFactory: () => new Refusal(404, 'no-such-sound', 'There is no such sound, or it was deleted.'),
});

/** The version that an `If-Match` header names. */
function versionOf(ifMatch: string | undefined): number {
  if (ifMatch === undefined)
    throw new Refusal(
      428,
      'version-wanted',
      'Send an If-Match header with the version your change started from.',
    );
  const match = /^"(\d{1,9})"$/.exec(ifMatch.trim());
  if (!match) throw new Refusal(400, 'not-valid', 'If-Match takes a version in quotes, such as "3".');
  return Number(match[1]);
}

@ApiTags('sounds')
@Controller('api/sounds')
export class SoundsController {
  constructor(private readonly sounds: SoundsService) {}

  @Get()
  @ApiOkResponse({ type: SoundListDto })
  list(@Query() query: ListSoundsDto): Promise<SoundListDto> {
    return this.sounds.list(query);
  }

  @Post()
  @ApiCreatedResponse({ type: SoundDto })
  async create(
    @Body() body: KeepSoundDto,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SoundDto> {
    const sound = await this.sounds.create(body.document);
    response.setHeader('Location', `/api/sounds/${sound.id}`).setHeader('ETag', `"${sound.version}"`);
    return sound;
  }

  @Get(':id')
  @ApiOkResponse({ type: SoundDto })
  async read(
    @Param('id', soundId) id: string,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SoundDto> {
    const sound = await this.sounds.read(id);
    response.setHeader('ETag', `"${sound.version}"`).setHeader('Cache-Control', 'no-store');
    return sound;
  }

  @Put(':id')
  @ApiHeader({ name: 'If-Match', description: 'The version that the change began from, in quotes.' })
  @ApiOkResponse({ type: SoundDto })
  async update(
    @Param('id', soundId) id: string,
    @Headers('if-match') ifMatch: string | undefined,
    @Body() body: KeepSoundDto,
    @Res({ passthrough: true }) response: Response,
  ): Promise<SoundDto> {
    const sound = await this.sounds.update(id, versionOf(ifMatch), body.document);
    response.setHeader('ETag', `"${sound.version}"`);
    return sound;
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  remove(@Param('id', soundId) id: string): Promise<void> {
    return this.sounds.remove(id);
  }

  /** Purges a sound that was deleted: nothing brings it back. */
  @Delete(':id/purge')
  @HttpCode(204)
  @ApiNoContentResponse()
  purge(@Param('id', soundId) id: string): Promise<void> {
    return this.sounds.purge(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  @ApiOkResponse({ type: SoundDto })
  restore(@Param('id', soundId) id: string): Promise<SoundDto> {
    return this.sounds.restore(id);
  }
}
