import { Body, Controller, Delete, Get, HttpCode, Param, ParseUUIDPipe, Post, Query } from '@nestjs/common';
import { ApiCreatedResponse, ApiNoContentResponse, ApiOkResponse, ApiTags } from '@nestjs/swagger';
import { Refusal } from '../problem/problem.js';
import { KeepPartDto, ListPartsDto, PartDto, PartSummaryDto } from './part.dto.js';
import { PartsService } from './parts.service.js';

const partId = new ParseUUIDPipe({
  exceptionFactory: () => new Refusal(404, 'no-such-part', 'There is no such part in the library.'),
});

@ApiTags('parts')
@Controller('api/parts')
export class PartsController {
  constructor(private readonly parts: PartsService) {}

  @Get()
  @ApiOkResponse({ type: [PartSummaryDto] })
  list(@Query() { kind }: ListPartsDto): Promise<PartSummaryDto[]> {
    return this.parts.list(kind);
  }

  @Post()
  @ApiCreatedResponse({ type: PartDto })
  keep(@Body() body: KeepPartDto): Promise<PartDto> {
    return this.parts.keep(body);
  }

  @Get(':id')
  @ApiOkResponse({ type: PartDto })
  read(@Param('id', partId) id: string): Promise<PartDto> {
    return this.parts.read(id);
  }

  @Post(':id/restore')
  @HttpCode(200)
  @ApiOkResponse({ type: PartDto })
  restore(@Param('id', partId) id: string): Promise<PartDto> {
    return this.parts.restore(id);
  }

  @Delete(':id')
  @HttpCode(204)
  @ApiNoContentResponse()
  remove(@Param('id', partId) id: string): Promise<void> {
    return this.parts.remove(id);
  }
}
