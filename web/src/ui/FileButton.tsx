/** A button that asks for files. */

import { useRef } from "react";
import { Button } from "./controls";

interface FileButtonProps {
  /** What is on the button, and what the files are for who cannot see it. */
  text: string;
  label: string;
  accept: string;
  multiple?: boolean;
  className?: string;
  title?: string;
  onFiles: (files: File[]) => void;
}

export function FileButton({ text, label, accept, multiple = false, className = "", title, onFiles }: FileButtonProps) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <input
        ref={input}
        type="file"
        multiple={multiple}
        accept={accept}
        className="hidden"
        aria-label={label}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          // The same file may be chosen again.
          e.target.value = "";
          if (files.length > 0) onFiles(files);
        }}
      />
      <Button className={className} title={title} onClick={() => input.current?.click()}>
        {text}
      </Button>
    </>
  );
}
