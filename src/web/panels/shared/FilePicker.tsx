import type { RefObject } from 'react';

interface FilePickerProps {
  /** What opens the picker clicks this. */
  input: RefObject<HTMLInputElement | null>;
  label: string;
  accept: string;
  onFile: (file: File) => void;
}

/** A file field without a face of its own; the same file can be chosen twice. */
export function FilePicker({ input, label, accept, onFile }: FilePickerProps) {
  return (
    <input
      ref={input}
      type="file"
      accept={accept}
      aria-label={label}
      hidden
      onChange={({ target }) => {
        const [chosen] = target.files ?? [];
        target.value = '';
        if (chosen) onFile(chosen);
      }}
    />
  );
}
