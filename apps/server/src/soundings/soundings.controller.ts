import { Body, Controller, Get, HttpCode, Param, ParseUUIDPipe, Put } from '@nestjs/common';
import { ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { Refusal } from '../problem/problem.js';
import { KeepSoundingDto, SoundingDto } from './sounding.dto.js';
import { SoundingsService } from './soundings.service.js';

const ownerId = new ParseUUIDPipe({
  exceptionFactory: () =>
    new Refusal(404, 'no-such-sound', 'There is no such sound or kept state, or it was deleted.'),
});

@ApiTags('soundings')
@Controller('api/soundings')
export class SoundingsController {
  constructor(private readonly soundings: SoundingsService) {}

  @Get(':owner')
  @ApiOkResponse({ type: SoundingDto })
  read(@Param('owner', ownerId) owner: string): Promise<SoundingDto> {
    return this.soundings.read(owner);
  }

  @Put(':owner')
  @HttpCode(204)
  @ApiNoContentResponse()
  keep(@Param('owner', ownerId) owner: string, @Body() body: KeepSoundingDto): Promise<void> {
    return this.soundings.keep(owner, body);
  }
}
