import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, type Schema } from "../api/client";
import { campaignsQuery } from "../api/queries";
import { change, comeBack, placesQuery } from "../campaigns/campaigns";
import { LeaveDialog } from "../campaigns/CampaignPeople";
import { day } from "../ui/words";
import { useMoney } from "../ui/useMoney";
import { keys } from "../api/keys";

/** A recipient’s progress in the campaigns of their list, and what came in from them. */
export function InCampaigns({ listId, recipientId, name }: { listId: number; recipientId: number; name: string }) {
  const money = useMoney();
  const places = useQuery(placesQuery(listId, recipientId)).data ?? [];
  const responses =
    useQuery({
      queryKey: keys.drop("responses", listId, recipientId),
      queryFn: () => ask(api.GET("/api/lists/{id}/recipients/{recipientId}/responses", { params: { path: { id: listId, recipientId } } })),
    }).data ?? [];
  const all = useQuery(campaignsQuery()).data ?? [];
  const [leaving, setLeaving] = useState<Schema["PlaceInCampaign"] | null>(null);
  const open = all.filter((c) => c.mode === "OneByOne" && c.listId === listId && !places.some((p) => p.campaignId === c.id));
  if (places.length === 0 && responses.length === 0 && open.length === 0) return null;
  return (
    <>
      <h2 className="mb-2">Campaigns</h2>
      <ul className="mb-3" aria-label="Campaigns">
        {places.map((p) => (
          <li key={p.campaignId} className="flex items-start gap-3 border-b border-line py-2">
            <div className="min-w-0 flex-1">
              <Link className="font-semibold hover:underline" to={`/campaigns/${p.campaignId}`}>
                {p.campaign}
              </Link>
              {p.person.enteredOn && <span className="ml-2 text-[12px] text-faint">since {day(p.person.enteredOn)}</span>}
              <p className="text-[12.5px]">
                {p.person.soFar.map((s) => `${s.step} ${s.words}`).join("; ")}
                {p.person.soFar.length > 0 && " · "}
                {p.person.leftOn ? (
                  <span className="text-success">
                    left {day(p.person.leftOn)}: {p.person.leftFor}
                  </span>
                ) : (
                  <span className="text-faint">next: {p.person.next}</span>
                )}
              </p>
            </div>
            {p.person.leftOn ? (
              <button
                className="btn btn-xs btn-quiet"
                onClick={() => void change(comeBack(p.campaignId, [recipientId]), `${name} is in ${p.campaign} again.`)}
              >
                Undo leaving
              </button>
            ) : (
              <button className="btn btn-xs btn-quiet" onClick={() => setLeaving(p)}>
                Leave…
              </button>
            )}
          </li>
        ))}
        {open.map((c) => (
          <li key={c.id} className="flex items-center gap-3 border-b border-line py-2 text-faint">
            <span className="min-w-0 flex-1">{c.name}: not entered</span>
            <button
              className="btn btn-xs btn-quiet"
              onClick={() =>
                void change(
                  ask(
                    api.POST("/api/campaigns/{id}/enter", {
                      params: { path: { id: c.id } },
                      body: { campaignId: c.id, recipients: [recipientId], on: null },
                    }),
                  ),
                  `${name} entered ${c.name}.`,
                )
              }
            >
              Enter
            </button>
          </li>
        ))}
      </ul>
      {responses.length > 0 && (
        <>
          <h2 className="mb-2">Responses</h2>
          <ul className="mb-6" aria-label="Responses">
            {responses.map((r) => (
              <li key={r.id} className="flex gap-3 border-b border-line py-1.5">
                <span className="w-28 text-faint">{day(r.onDate)}</span>
                <span className="min-w-0 flex-1 truncate">
                  {r.credited ?? "counts for no piece"}
                  {r.note && `: ${r.note}`}
                </span>
                {r.cents !== null && <span className="tabular-nums">{money(r.cents)}</span>}
              </li>
            ))}
          </ul>
        </>
      )}
      {leaving && (
        <LeaveDialog
          campaign={{ id: leaving.campaignId, name: leaving.campaign }}
          person={{ recipientId, name }}
          onClose={() => setLeaving(null)}
        />
      )}
    </>
  );
}
