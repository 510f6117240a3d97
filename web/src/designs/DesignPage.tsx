import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { designQuery } from "../api/queries";
import { SurfacePage } from "../surfaces/SurfacePage";
import type { Surface } from "../surfaces/surface";
import { EmailPage } from "./EmailPage";
import type { Email } from "./email";
import type { Letter } from "./letter";
import { LetterPage } from "./LetterPage";

/** A design in its editor: a letter on its page, an envelope or a label as the piece itself, an email as its message. */
export function DesignPage() {
  const id = Number(useParams().id);
  const design = useQuery({ ...designQuery(id), refetchOnWindowFocus: false, staleTime: Infinity });
  const [opened, setOpened] = useState<{ n: number; document?: object }>({ n: 0 });
  if (design.error) return <p className="p-8 text-error">{design.error.message}</p>;
  if (!design.data) return null;
  // Bringing a version or a kept draft back opens the editor anew.
  const reopen = (document?: object) => setOpened((o) => ({ n: o.n + 1, document }));
  if (design.data.kind === "email")
    return <EmailPage key={`${id}.${opened.n}`} design={design.data} start={opened.document as Email | undefined} reopen={reopen} />;
  return design.data.kind === "letter" ? (
    <LetterPage key={`${id}.${opened.n}`} design={design.data} start={opened.document as Letter | undefined} reopen={reopen} />
  ) : (
    <SurfacePage key={`${id}.${opened.n}`} design={design.data} start={opened.document as Surface | undefined} reopen={reopen} />
  );
}
