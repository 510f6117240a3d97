import type { Schema } from "../api/client";

/** What an editor is given: the design as it was read, and, where a version or a draft was brought back, the document to begin with. */
export interface EditorProps {
  design: Schema["DesignDetail"];
  start: object | undefined;
  reopen: (document?: object) => void;
}
