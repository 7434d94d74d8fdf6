import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { Refusal } from '../problem/problem.js';
import { KeepStateDto, StateDto, StateSummaryDto } from './state.dto.js';
import { StatesService } from './states.service.js';

const uuid = new ParseUUIDPipe({
  exceptionFactory: () => new Refusal(404, 'no-such-state', 'There is no such kept state of the sound.'),
});

@ApiTags('kept states')
@Controller('api/sounds/:sound/states')
export class StatesController {
  constructor(private readonly states: StatesService) {}

  @Get()
  @ApiOkResponse({ type: [StateSummaryDto] })
  list(@Param('sound', uuid) sound: string): Promise<StateSummaryDto[]> {
    return this.states.list(sound);
  }

  @Post()
  @ApiCreatedResponse({ type: StateDto })
  keep(@Param('sound', uuid) sound: string, @Body() body: KeepStateDto): Promise<StateDto> {
    return this.states.keep(sound, body);
  }

  @Get(':id')
  @ApiOkResponse({ type: StateDto })
  read(@Param('sound', uuid) sound: string, @Param('id', uuid) id: string): Promise<StateDto> {
    return this.states.read(sound, id);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  remove(@Param('sound', uuid) sound: string, @Param('id', uuid) id: string): Promise<void> {
    return this.states.remove(sound, id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  @ApiOkResponse({ type: StateDto })
  restore(@Param('sound', uuid) sound: string, @Param('id', uuid) id: string): Promise<StateDto> {
    return this.states.restore(sound, id);
  }
}
