import { useState } from "react";

/** A place onto which files are dropped; it shows when they are over it. */
export function DropZone({
  className,
  onFiles,
  children,
}: {
  className: string;
  onFiles: (files: FileList) => void;
  children: React.ReactNode;
}) {
  const [over, setOver] = useState(false);
  return (
    <div
      className={`flex items-center gap-3 rounded-box border-2 border-dashed ${over ? "border-primary bg-base-200" : "border-base-300"} ${className}`}
      onDragOver={(e) => {
        e.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault();
        setOver(false);
        onFiles(e.dataTransfer.files);
      }}
    >
      {children}
    </div>
  );
}
