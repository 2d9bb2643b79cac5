'use client';

import { useRef, type ReactNode } from 'react';
import { Button } from './button';

/** A button that asks for one file. The same file can be chosen again after it was mended. */
export function FilePick({
  label,
  accept,
  onFile,
  children,
  small,
  kind,
}: {
  label: string;
  accept: string;
  onFile: (file: File) => void;
  children: ReactNode;
  small?: boolean;
  kind?: 'plain' | 'primary' | 'quiet';
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...(small ? { small } : {})} {...(kind ? { kind } : {})} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="hidden"
        onChange={(e) => {
          const file = e.target.files?.[0];
          if (file) onFile(file);
          e.target.value = '';
        }}
      />
    </>
  );
}
