import { Box } from '@mui/material';
import type { ChangeEvent } from 'react';
import { sea } from '../theme/sea';
import { TYPE } from '../theme/type';

interface ListChoiceProps<T extends string> {
  readonly label: string;
  readonly options: readonly (T | { readonly value: T; readonly label: string })[];
  readonly value: T;
  readonly onChange: (value: T) => void;
  readonly disabled?: boolean;
  /** Whether it takes what room there is. */
  readonly grow?: boolean;
}

/** One of many, from a list that opens. */
export function ListChoice<T extends string>({
  label,
  options,
  value,
  onChange,
  disabled,
  grow = false,
}: ListChoiceProps<T>) {
  return (
    <Box
      component="select"
      aria-label={label}
      value={value}
      disabled={disabled}
      onChange={(event: ChangeEvent<HTMLSelectElement>) => {
        onChange(event.target.value as T);
      }}
      sx={{
        flex: grow ? 1 : undefined,
        minWidth: 0,
        height: 24,
        font: 'inherit',
        fontSize: TYPE.control,
        color: sea.ink,
        bgcolor: sea.sheet,
        border: `1px solid ${sea.rule}`,
      }}
    >
      {options.map((option) => {
        const { value: key, label: text } =
          typeof option === 'string' ? { value: option, label: option } : option;
        return (
          <option key={key} value={key}>
            {text}
          </option>
        );
      })}
    </Box>
  );
}
