interface Props {
  label: string;
  accept: string;
  className?: string;
  title?: string;
  onFile: (file: File) => void;
  children: string;
}

/** Asks for a file of one's own. The same file may be chosen twice. */
export function FilePick({ label, accept, className, title, onFile, children }: Props) {
  return (
    <label className={className} title={title}>
      {children}
      <input
        type="file"
        accept={accept}
        aria-label={label}
        className="visually-hidden"
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) onFile(file);
        }}
      />
    </label>
  );
}
