import { useQuery } from "@tanstack/react-query";
import { ArrowLeft, FileDown } from "lucide-react";
import { useMemo, useState, type ReactNode } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useBasis } from "../api/basis";
import { api, ask, queryClient, type Schema } from "../api/client";
import { capital, kinds, type DesignKind } from "../designs/kinds";
import { completeLetter } from "../designs/letter";
import { usePreview } from "../designs/usePreview";
import { completeForm } from "../forms/form";
import { FormDesk } from "../forms/FormDesk";
import { say, sayWrong } from "../ui/notices";
import { moment, pieceNumber } from "../ui/words";
import { useDrop } from "./DropPage";
import { OneOffLetter } from "./OneOffLetter";
import { listQuery } from "../api/queries";
import { keys } from "../api/keys";

/** A letter or a form is changed for one recipient alone; the design stays as it is for everybody else. */
export function OneOffPage() {
  const drop = useDrop();
  const params = useParams();
  const path = { id: drop.id, recipientId: Number(params.recipientId), designId: Number(params.designId) };
  const letter = useQuery({
    queryKey: keys.drop(drop.id, "one-off", path.recipientId, path.designId),
    queryFn: () => ask(api.GET("/api/drops/{id}/recipients/{recipientId}/letters/{designId}", { params: { path } })),
    refetchOnWindowFocus: false,
  });
  const person = useQuery({
    queryKey: keys.drop(drop.id, "person", path.recipientId),
    queryFn: () =>
      ask(api.GET("/api/drops/{id}/recipients/{recipientId}", { params: { path: { id: path.id, recipientId: path.recipientId } } })),
  });
  if (letter.error ?? person.error) return <p className="p-8 text-error">{(letter.error ?? person.error)?.message}</p>;
  if (!letter.data || !person.data) return null;
  return (
    <Alone
      key={`${path.recipientId}.${path.designId}.${letter.data.at ?? ""}.${letter.data.newestVersion}`}
      path={path}
      kind={drop.package.find((d) => d.designId === path.designId)?.kind ?? "letter"}
      own={letter.data}
      person={person.data}
    />
  );
}

function Alone({
  path,
  kind,
  own: l,
  person,
}: {
  path: { id: number; recipientId: number; designId: number };
  kind: DesignKind;
  own: Schema["OneOffView"];
  person: Schema["BenchPerson"];
}) {
  const complete: (stored: unknown) => object = kinds[kind].isText ? completeLetter : completeForm;
  const word = kinds[kind].name;
  const drop = useDrop();
  const navigate = useNavigate();
  const [document, setDocument] = useState(() => complete(l.document));
  const [busy, setBusy] = useState(false);
  const changed = JSON.stringify(document) !== JSON.stringify(complete(l.document));
  const back = `/drops/${drop.id}/proof?piece=${person.piece}`;

  const basis = useBasis(`/api/drops/${path.id}/recipients/${path.recipientId}/letters/${path.designId}`);
  const act = async (what: () => Promise<{ label: string }>) => {
    setBusy(true);
    try {
      say(`${(await what()).label}.`);
      await queryClient.invalidateQueries({ queryKey: keys.drop() });
      void navigate(back);
    } catch (e) {
      sayWrong(e);
    } finally {
      setBusy(false);
    }
  };
  const save = (document: unknown) =>
    void act(() =>
      ask(
        api.PUT("/api/drops/{id}/recipients/{recipientId}/letters/{designId}", {
          params: { path },
          headers: basis.headers(),
          body: { document: document as Record<string, never> },
        }),
      ),
    );
  const remove = () => void act(() => ask(api.DELETE("/api/drops/{id}/recipients/{recipientId}/letters/{designId}", { params: { path } })));
  const shown = { designId: path.designId, listId: drop.listId, recipientId: path.recipientId };
  // A package with a letter and a form: each can be changed.
  const changeables = drop.package.filter((d) => kinds[d.kind].changesForOne);
  const others: ReactNode = changeables.length > 1 && (
    <span className="flex gap-1" role="group" aria-label="What is changed">
      {changeables.map((d) => (
        <Link
          key={d.designId}
          className={`btn btn-xs ${d.designId === path.designId ? "btn-primary" : "btn-quiet"}`}
          aria-current={d.designId === path.designId}
          to={`/drops/${drop.id}/proof/letter/${path.recipientId}/${d.designId}`}
          title={d.name}
        >
          {capital(kinds[d.kind].name)}
        </Link>
      ))}
    </span>
  );
  return (
    <>
      <div className="flex h-12 shrink-0 items-center gap-3 border-b border-line px-4">
        <Link className="btn btn-quiet btn-sm" to={back}>
          <ArrowLeft size={14} /> Bench
        </Link>
        <span className="min-w-0 flex-1 truncate">
          <strong>{l.designName}</strong> for <span className="text-faint">{pieceNumber(person.piece)}</span> <strong>{person.name}</strong>{" "}
          alone
          <span className="ml-2 text-faint">{l.own ? `changed ${moment(l.at)} by ${l.by}` : "the standard version does not change"}</span>
        </span>
        {others}
        {kinds[kind].isText && (
          <a
            className={`btn btn-quiet btn-sm ${changed ? "btn-disabled" : ""}`}
            href={`/api/drops/${path.id}/recipients/${path.recipientId}/letters/${path.designId}/document.docx`}
            aria-disabled={changed}
            title={changed ? "Keep the changes first; then they are in the file" : "This letter with its values, to be edited elsewhere"}
            download
          >
            <FileDown size={14} /> DOCX
          </a>
        )}
        {l.own && (
          <button className="btn btn-quiet btn-sm" disabled={busy} onClick={remove}>
            Back to the standard letter {word}
          </button>
        )}
        <button className="btn btn-primary btn-sm" disabled={busy || !changed} onClick={() => save(document)}>
          Save for this recipient
        </button>
      </div>
      {l.isOpen && (
        <div className="flex shrink-0 items-center gap-2 border-b border-line bg-doubt px-4 py-2" role="alert">
          <span className="flex-1">
            The {word} was changed for {person.name} in version {l.settledVersion}. The standard {word} is now version {l.newestVersion}.{" "}
            {l.merged ? "You can apply the change to the new version." : "Both changed the same text, so choose which one to keep."}
          </span>
          {l.merged !== null && (
            <button className="btn btn-primary btn-sm" disabled={busy} onClick={() => save(l.merged)}>
              Apply change to version {l.newestVersion}
            </button>
          )}
          <button className="btn btn-sm bg-base-100" disabled={busy} onClick={() => save(document)}>
            Keep this {word} as it is
          </button>
          <button className="btn btn-sm bg-base-100" disabled={busy} onClick={remove}>
            Use version {l.newestVersion}
          </button>
        </div>
      )}
      {kinds[kind].isText ? (
        <OneOffLetter
          {...shown}
          letter={document as ReturnType<typeof completeLetter>}
          onContent={(content) => setDocument((d) => ({ ...d, content }))}
        />
      ) : (
        <OneOffForm {...shown} form={document as ReturnType<typeof completeForm>} write={setDocument} />
      )}
    </>
  );
}

/** The form of one recipient, on its page. */
function OneOffForm(props: {
  designId: number;
  listId: number;
  recipientId: number;
  form: ReturnType<typeof completeForm>;
  write: (form: ReturnType<typeof completeForm>) => void;
}) {
  const { form, listId } = props;
  const preview = usePreview({ ...props, document: form, rest: 80 });
  const list = useQuery(listQuery(listId)).data;
  const columns = useMemo(() => list?.columns ?? [], [list]);
  return <FormDesk {...{ form, listId, columns, preview }} write={props.write} readOnly={false} />;
}
