import { Button, type ButtonProps } from '@mui/material';
import { useRef, type RefObject } from 'react';

/** What may be chosen. */
export const WAV_FILES = '.wav,audio/wav';

interface FileInputProps {
  /** What the files are for, as it is read out. */
  readonly label: string;
  readonly accept: string;
  readonly multiple?: boolean;
  /** Given what was chosen, at least one. */
  readonly onFiles: (files: readonly File[]) => void;
}

/** What the browser's file window belongs to; it is never seen. The same file may be chosen twice running. */
export function FileInput({
  picker,
  label,
  accept,
  multiple = false,
  onFiles,
}: FileInputProps & { readonly picker: RefObject<HTMLInputElement | null> }) {
  return (
    <input
      ref={picker}
      type="file"
      hidden
      accept={accept}
      multiple={multiple}
      aria-label={label}
      onChange={({ target }) => {
        const files = [...(target.files ?? [])];
        target.value = '';
        if (files.length > 0) onFiles(files);
      }}
    />
  );
}

/** A button that lets files be chosen. */
export function FileButton({
  label,
  accept,
  multiple,
  onFiles,
  ...button
}: FileInputProps & Pick<ButtonProps, 'children' | 'disabled' | 'size'>) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <FileInput picker={picker} label={label} accept={accept} multiple={multiple} onFiles={onFiles} />
      <Button {...button} variant="outlined" onClick={() => picker.current?.click()} />
    </>
  );
}
