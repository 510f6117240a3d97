import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate, useSearchParams } from "react-router";
import { api, ask, queryClient, type Tray } from "../api/client";
import { MailView } from "../mail/MailView";
import { TestMail } from "../mail/TestMail";
import { useActions } from "../ui/keys";
import { sayWrong } from "../ui/notices";
import { PdfPages } from "../ui/PdfPages";
import { useDelayed } from "../ui/useDelayed";
import { useSize } from "../ui/useSize";
import { windowShares } from "../ui/windowShares";
import { many, trayNames } from "../ui/words";
import { accept, backReasons, hold, release, takeBack, undo } from "./acts";
import { BenchList } from "./BenchList";
import { BenchPerson } from "./BenchPerson";
import { BenchTour } from "./BenchTour";
import { useDrop } from "./DropPage";
import { mailQuery, proofQuery } from "./proof";
import { ReasonDialog } from "./ReasonDialog";
import { useSelection } from "./selection";
import { trayOrder, Trays } from "./Trays";
import { benchParams, useBenchRows, type BenchQuery } from "./useBenchRows";
import { capital, changeable, isSent, kinds, paged } from "../designs/kinds";
import { keys } from "../api/keys";

/** The bench: trays above, recipients left, the real pages in the middle, the person right. */
export function BenchPlace() {
  const drop = useDrop();
  // Other screens open the bench at a piece or at issues alike.
  const [asked] = useSearchParams();
  const [only, setOnly] = useState<BenchQuery["only"]>(asked.has("inDoubt") ? "inDoubt" : asked.has("noted") ? "noted" : null);
  const [tray, setTray] = useState<Tray | null>(asked.size === 0 && drop.trays.needsReview > 0 ? "NeedsReview" : null);
  const [search, setSearch] = useState("");
  const [alike, setAlike] = useState<string | null>(asked.get("alike"));
  const [sort, setSort] = useState<{ by: BenchQuery["sort"]; descending: boolean }>({ by: "piece", descending: false });
  const delayedSearch = useDelayed(search, 150);
  const query = useMemo<BenchQuery>(
    () => ({ tray, search: delayedSearch, alike, only, sort: sort.by, descending: sort.descending }),
    [tray, delayedSearch, alike, only, sort],
  );
  const [range, setRange] = useState({ first: 0, last: 30 });
  const rows = useBenchRows(drop.id, query, range);
  const piece = Number(asked.get("piece"));
  const place = useQuery({
    queryKey: keys.drop(drop.id, "place", piece),
    queryFn: () => ask(api.GET("/api/drops/{id}/recipients/place", { params: { path: { id: drop.id }, query: { piece } } })),
    enabled: piece > 0,
  });
  // Until somebody walks on, the cursor is at the piece at which the bench was opened.
  const [walked, setCursor] = useState<number | null>(null);
  const cursor = walked ?? (piece > 0 && !place.isError ? place.data : 0);
  const anchor = useRef<number | null>(null);
  const [selected, select] = useSelection(drop.id);
  const [asking, setAsking] = useState<"hold" | "back" | null>(null);
  const [fixing, setFixing] = useState(0);
  const searchBox = useRef<HTMLInputElement>(null);
  const [paperArea, paperSize] = useSize<HTMLDivElement>();
  const [close, setClose] = useState(false);

  // Who was at the cursor may have left the tray: then the next one stands there.
  const at = rows.total === 0 || cursor === undefined ? -1 : Math.min(cursor, rows.total - 1);
  const row = at >= 0 ? rows.row(at) : undefined;
  const id = row?.id;
  const person = useQuery({
    queryKey: keys.drop(drop.id, "person", id),
    queryFn: () => ask(api.GET("/api/drops/{id}/recipients/{recipientId}", { params: { path: { id: drop.id, recipientId: id ?? 0 } } })),
    enabled: id !== undefined,
    placeholderData: keepPreviousData,
  });
  const proof = useQuery({ ...proofQuery(drop.id, id ?? 0), enabled: id !== undefined, placeholderData: keepPreviousData, staleTime: 0 });
  const neighbors = [rows.row(at + 1)?.id, rows.row(at - 1)?.id].filter((n) => n !== undefined).join(",");
  useEffect(() => {
    for (const n of neighbors ? neighbors.split(",").map(Number) : []) void queryClient.prefetchQuery(proofQuery(drop.id, n));
  }, [neighbors, drop.id]);

  const chooseTray = (t: Tray | null) => {
    setTray(t);
    setAlike(null);
    setOnly(null);
    setCursor(0);
    anchor.current = null;
  };
  const move = (to: number, extend = false) => {
    const next = Math.max(0, Math.min(rows.total - 1, to));
    if (extend) {
      anchor.current ??= at;
      const [from, until] = [Math.min(anchor.current, next), Math.max(anchor.current, next)];
      const ids: number[] = [];
      for (let i = from; i <= until; i++) {
        const r = rows.row(i);
        if (r) ids.push(r.id);
      }
      select(ids);
    } else anchor.current = null;
    setCursor(next);
  };
  const toggle = useCallback(
    (recipient: number) => {
      const next = new Set(selected);
      if (!next.delete(recipient)) next.add(recipient);
      select(next);
    },
    [selected, select],
  );
  const everybody = async () => {
    try {
      select(await ask(api.GET("/api/drops/{id}/recipient-ids", { params: { path: { id: drop.id }, query: benchParams(query) } })));
    } catch (e) {
      sayWrong(e);
    }
  };
  /** The selected, or the one at the cursor. */
  const meant = () => (selected.size > 0 ? [...selected] : id !== undefined ? [id] : []);
  const done = (ok: boolean) => {
    if (ok) select([]);
  };
  const open = person.data && person.data.id === id ? person.data.issues.filter((f) => !f.accepted) : [];
  const acceptFirst = (all: boolean) => {
    const first = open[0];
    if (first && id !== undefined) void accept(drop.id, first.alike, all ? null : id);
  };

  const navigate = useNavigate();
  const letter = changeable(drop.package);
  const editAlone = () => {
    if (letter && id !== undefined) void navigate(`/drops/${drop.id}/proof/letter/${id}/${letter.designId}`);
  };
  useActions([
    { keys: "ArrowDown", label: "Next recipient", run: () => move(at + 1), quiet: true },
    { keys: "ArrowUp", label: "Previous recipient", run: () => move(at - 1), quiet: true },
    { keys: "Shift+ArrowDown", label: "Extend selection down", run: () => move(at + 1, true), quiet: true },
    { keys: "Shift+ArrowUp", label: "Extend selection up", run: () => move(at - 1, true), quiet: true },
    { keys: "PageDown", label: "Page down", run: () => move(at + 12), quiet: true },
    { keys: "PageUp", label: "Page up", run: () => move(at - 12), quiet: true },
    { keys: "Home", label: "First recipient", run: () => move(0), quiet: true },
    { keys: "End", label: "Last recipient", run: () => move(rows.total - 1), quiet: true },
    { keys: "Space", label: "Select or deselect", run: () => id !== undefined && toggle(id), quiet: true },
    { keys: "Ctrl+a", label: "Select all shown", run: () => void everybody() },
    { keys: "Escape", label: "Clear selection", run: () => select([]), quiet: true },
    { keys: "h", label: "Hold recipient", run: () => meant().length > 0 && setAsking("hold") },
    { keys: "r", label: "Release recipient", run: () => void release(drop.id, meant()).then(done) },
    { keys: "a", label: "Accept the issue as is", run: () => acceptFirst(false) },
    { keys: "Shift+a", label: "Accept all issues like this", run: () => acceptFirst(true) },
    { keys: "f", label: "Fix value", run: () => setFixing((n) => n + 1) },
    { keys: "e", label: "Change the piece for this recipient only", run: editAlone },
    {
      keys: "t",
      label: "Move produced piece back to Ready",
      run: () => meant().length > 0 && (selected.size > 1 || person.data?.tray === "Produced") && setAsking("back"),
    },
    { keys: "u Ctrl+z", label: "Undo", run: () => void undo(drop.id) },
    { keys: "z", label: "Switch between whole package and larger view", run: () => setClose((c) => !c) },
    { keys: "/", label: "Search recipients", run: () => searchBox.current?.focus() },
    ...trayOrder.map((t, i) => ({ keys: String(i + 1), label: `Show only ${trayNames[t]}`, run: () => chooseTray(t), quiet: true })),
    { keys: "0", label: "Show all recipients", run: () => chooseTray(null), quiet: true },
  ]);

  const all = person.data?.pieces;
  // A message has no pages; it stands above what is printed or attached.
  const pieces = useMemo(() => all?.filter((p) => p.pages > 0), [all]);
  const pages = pieces?.reduce((sum, p) => sum + (kinds[p.kind].hasPages ? p.pages : 0), 0) || 1;
  const emailed = rows.total > 0 && isSent(all ?? []);
  const mail = useQuery({
    ...mailQuery(drop.id, id ?? 0),
    enabled: emailed && id !== undefined && !person.isPlaceholderData,
    placeholderData: keepPreviousData,
  });
  const whole = (pieces?.length ?? 1) > 1 && !close;
  // A whole page fits without scrolling; a letter's page is 11 to 8.5. With several pieces all are seen at once, the letter smaller.
  const tall = drop.package.reduce((sum, p) => sum + kinds[p.kind].height, 0);
  const paperWidth = whole
    ? Math.max(230, Math.floor(Math.min(paperSize.width - 48, (paperSize.height - 30 - 38 * drop.package.length) / tall)))
    : Math.max(240, Math.floor(Math.min(paperSize.width - 48, (paperSize.height - 44) / 1.3)));
  const most = paperSize.width - 44;
  // One measure for all pieces, so that they look as large beside each other as they are; only small labels are drawn larger.
  const widthOf = useCallback(
    (points: number) => Math.round(Math.min(most, points * (paperWidth / 612) * (points < 330 ? 1.5 : 1))),
    [most, paperWidth],
  );
  const shownPieces = useMemo(
    () =>
      pieces && pieces.length > 1
        ? pieces.map((p) => ({
            name: `${capital(kinds[p.kind].name)}: ${p.name}${p.attached ? ", attached" : ""}`,
            pages: p.pages,
            window: windowShares(p.window),
          }))
        : pieces?.some((p) => p.window)
          ? pieces.map((p) => ({ name: p.name, pages: p.pages, window: windowShares(p.window) }))
          : pieces?.some((p) => p.attached)
            ? pieces.map((p) => ({ name: `${p.name}, attached`, pages: p.pages, window: null }))
            : undefined,
    [pieces],
  );
  return (
    <>
      <BenchTour />
      <Trays counts={drop.trays} chosen={tray} onChoose={chooseTray} />
      <div className="flex min-h-0 flex-1">
        <BenchList
          drop={drop}
          rows={rows}
          cursor={at}
          selected={selected}
          search={search}
          alike={alike}
          only={only ?? null}
          onOnly={(o) => {
            setOnly(o);
            setTray(null);
            setAlike(null);
            setCursor(0);
          }}
          sort={sort}
          tray={tray}
          searchBox={searchBox}
          onSearch={(text) => {
            setSearch(text);
            setCursor(0);
          }}
          onAlike={(a) => {
            setAlike(a);
            setOnly(null);
            setTray(null);
            setCursor(0);
          }}
          onSort={setSort}
          onRange={setRange}
          onCursor={(i, extend) => move(i, extend)}
          onToggle={toggle}
          onEverybody={() => void everybody()}
          onNobody={() => select([])}
        />
        <section className="on-sand flex min-w-0 flex-1 flex-col bg-base-200" aria-label="Package">
          <div className="flex min-h-10 shrink-0 flex-wrap items-center gap-x-4 gap-y-0.5 px-5 py-0.5">
            <span className="font-semibold">
              {all && all.length > 1 ? `${all.length} pieces together` : drop.package.length > 1 ? (all?.[0]?.name ?? "") : drop.designName}
              {emailed && pieces?.length === 0 ? "" : ` · ${many(pages, "page")}`}
            </span>
            {((pieces?.length ?? 1) > 1 || (emailed && pieces && pieces.length > 0)) && (
              <button
                className="btn btn-quiet btn-xs"
                aria-pressed={close}
                title="Switch between whole package and larger view (Z)"
                onClick={() => setClose(!close)}
              >
                {close ? "Whole package" : "Larger"}
              </button>
            )}
            {emailed && id !== undefined && <TestMail dropId={drop.id} recipientId={id} name={row?.name ?? ""} />}
            <span className="ml-auto text-[12px] text-faint">
              {row && (pieces?.length ?? 1) > 0
                ? `${person.data?.shownAsOfRun ? `As produced in run ${person.data.shownAsOfRun}` : "Print preview"}, ${Math.round((paperWidth / 816) * 100)}%`
                : ""}
            </span>
          </div>
          {emailed && mail.data && rows.total > 0 && (
            <div className={`min-h-0 px-5 pb-3 ${pieces?.length === 0 || close ? "flex-1" : "shrink-0 basis-[60%]"}`}>
              <MailView mail={mail.data} />
            </div>
          )}
          <div
            ref={paperArea}
            className={`min-h-0 overflow-auto px-5 pb-4 ${emailed && (pieces?.length === 0 || close) ? "hidden" : "flex-1"}`}
            role="region"
            tabIndex={0}
            aria-label="Pages"
          >
            {/* A row that is still on its way keeps the page before it: the paper is never empty while there are recipients. */}
            {rows.total > 0 && paperSize.width > 0 && (
              <PdfPages
                data={proof.data?.length ? proof.data : undefined}
                width={paperWidth}
                widthOf={(pieces?.length ?? 1) > 1 || !paged(drop.package.slice(0, 1)) ? widthOf : undefined}
                pieces={person.isPlaceholderData ? undefined : shownPieces}
                mark={String(proof.isPlaceholderData ? "" : id)}
              />
            )}
            {proof.error && <p className="p-6 text-error">{proof.error.message}</p>}
            {rows.total === 0 && !rows.loading && (
              <NobodyHere tray={tray} searching={delayedSearch !== "" || alike !== null} only={only ?? null} />
            )}
          </div>
        </section>
        <BenchPerson
          drop={drop}
          person={rows.total > 0 ? person.data : undefined}
          awaited={id}
          fixing={fixing}
          selectedCount={selected.size}
          onHold={() => setAsking("hold")}
          onRelease={() => void release(drop.id, meant()).then(done)}
          onTakeBack={(reason) => (reason ? void takeBack(drop.id, meant(), reason).then(done) : setAsking("back"))}
          onEdit={letter ? editAlone : null}
        />
      </div>
      {asking === "back" && (
        <ReasonDialog
          title={
            selected.size > 1
              ? `Move back to Ready: pieces of ${many(selected.size, "recipient")}`
              : `Move back to Ready: piece of ${row?.name ?? ""}`
          }
          explanation="They become Ready and are produced again in the next run. Remove the produced pieces from the tray."
          suggestions={backReasons}
          action="Move back to Ready"
          onClose={() => setAsking(null)}
          onReason={(reason) => {
            setAsking(null);
            void takeBack(drop.id, meant(), reason).then(done);
          }}
        />
      )}
      {asking === "hold" && (
        <ReasonDialog
          title={selected.size > 1 ? `Hold ${many(selected.size, "recipient")}` : `Hold ${row?.name ?? ""}`}
          explanation="Held recipients stay out of this drop until you release them."
          suggestions={["Asked us to wait", "Wrong address", "Already responded", "Check with the office"]}
          action="Hold"
          onClose={() => setAsking(null)}
          onReason={(reason) => {
            setAsking(null);
            void hold(drop.id, meant(), reason).then(done);
          }}
        />
      )}
    </>
  );
}

function NobodyHere({ tray, searching, only }: { tray: Tray | null; searching: boolean; only: BenchQuery["only"] }) {
  const text = only
    ? {
        inDoubt: "No pieces are in doubt. Press 0 to show all recipients.",
        noted: "No rule applies to a produced piece. Press 0 to show all recipients.",
      }[only]
    : searching
      ? "No recipients match your search. Press Esc in the search box to clear it, or 0 to show all recipients."
      : {
          NeedsReview: "No issues are left. Press 2 to look through the Ready pieces before you produce them.",
          Ready: "No recipients are Ready. Check Needs review (1) or Held (3).",
          Held: "No recipients are held. Press H to hold one. The ledger keeps the reason.",
          Produced: "No produced pieces are waiting. Go to Produce to produce the Ready recipients.",
          Mailed: "Nothing is marked as mailed yet. Mark it in the Ledger after the mail has left the building.",
          Returned: "Nothing has been returned. Record returns in the Ledger.",
        }[tray ?? "Ready"];
  return <p className="max-w-sm p-6 text-faint">{text}</p>;
}
