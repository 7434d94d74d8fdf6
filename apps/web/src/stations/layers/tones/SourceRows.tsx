import { numbersOf } from '@abyssal/core';
import { ParameterRow } from '../../../controls/ParameterRow';
import { useTone, type ToneProps } from './use-tone';

/** A row for every number of a tone's kind, as the document states them. */
export function SourceRows(props: ToneProps) {
  const { source, of, at } = useTone(props);
  return numbersOf(source.kind).map((field) => <ParameterRow key={field} path={[...at, field]} of={of} />);
}
