import type { PartKind } from '@abyssal/core';
import { callJson } from './problem';

export interface PartSummary {
  readonly id: string;
  readonly kind: PartKind;
  readonly name: string;
  readonly keptAt: string;
}
export interface Part extends PartSummary {
  readonly content: unknown;
}

export const listParts = (kind: PartSummary['kind']): Promise<PartSummary[]> =>
  callJson(`/parts?${new URLSearchParams({ kind }).toString()}`);
export const removePart = (id: string): Promise<void> => callJson(`/parts/${id}`, 'DELETE');
export const restorePart = (id: string): Promise<Part> => callJson(`/parts/${id}/restore`, 'POST');
export const fetchPart = (id: string): Promise<Part> => callJson(`/parts/${id}`);
export const keepPart = (kind: PartSummary['kind'], name: string, content: unknown): Promise<Part> =>
  callJson('/parts', 'POST', { kind, name, content });
