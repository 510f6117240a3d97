import { useQuery } from "@tanstack/react-query";
import { useState, type ComponentType } from "react";
import { useParams } from "react-router";
import { designQuery } from "../api/queries";
import { FormPage } from "../forms/FormPage";
import { SurfacePage } from "../surfaces/SurfacePage";
import type { EditorProps } from "./editor";
import { EmailPage } from "./EmailPage";
import type { DesignKind } from "./kinds";
import { LetterPage } from "./LetterPage";
import { MissingRecord } from "../shell/WentWrong";

/** A letter is written on its page, a form is filled in on its own, an envelope or a label as the piece itself, an email as its message. */
const editors: Record<DesignKind, ComponentType<EditorProps>> = {
  letter: LetterPage,
  form: FormPage,
  envelope: SurfacePage,
  labels: SurfacePage,
  email: EmailPage,
};

/** A design in its editor. */
export function DesignPage() {
  const id = Number(useParams().id);
  const design = useQuery({ ...designQuery(id), refetchOnWindowFocus: false, staleTime: Infinity });
  const [opened, setOpened] = useState<{ n: number; document?: object }>({ n: 0 });
  if (design.error) return <MissingRecord error={design.error} what="design" to="/designs" back="Go to Designs" />;
  if (!design.data) return null;
  const Editor = editors[design.data.kind];
  // Bringing a version or a kept draft back opens the editor anew.
  return (
    <Editor
      key={`${id}.${opened.n}`}
      design={design.data}
      start={opened.document}
      reopen={(document) => setOpened((o) => ({ n: o.n + 1, document }))}
    />
  );
}
