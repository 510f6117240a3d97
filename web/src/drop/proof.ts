import { queryOptions } from "@tanstack/react-query";
import { api, ask, type Schema } from "../api/client";
import { did } from "./acts";
import { keys } from "../api/keys";

export type Member = Schema["ProofMemberView"];

export const proofSetQuery = (id: number) =>
  queryOptions({
    queryKey: keys.drop(id, "proof-set"),
    queryFn: () => ask(api.GET("/api/drops/{id}/proof-set", { params: { path: { id } } })),
  });

/** A recipient's whole package as a PDF. */
export async function fetchProof(dropId: number, recipientId: number) {
  const data = await ask(
    api.GET("/api/drops/{id}/recipients/{recipientId}/proof.pdf", {
      params: { path: { id: dropId, recipientId } },
      parseAs: "arrayBuffer",
    }) as Promise<{ data?: ArrayBuffer; error?: unknown; response: Response }>,
  );
  return new Uint8Array(data);
}

export const proofQuery = (dropId: number, recipientId: number) =>
  queryOptions({ queryKey: keys.drop(dropId, "proof", recipientId), queryFn: () => fetchProof(dropId, recipientId), staleTime: 15_000 });

/** The made-up piece in which everything is at its longest. */
export const longestQuery = (dropId: number) =>
  queryOptions({
    queryKey: keys.drop(dropId, "longest"),
    queryFn: async () =>
      new Uint8Array(
        await ask(
          api.GET("/api/drops/{id}/longest.pdf", { params: { path: { id: dropId } }, parseAs: "arrayBuffer" }) as Promise<{
            data?: ArrayBuffer;
            error?: unknown;
            response: Response;
          }>,
        ),
      ),
  });

const member = (id: number, recipientId: number) => ({ params: { path: { id, recipientId } } });
export const findProof = (id: number, recipientId: number, found: "right" | "wrong" | null, note: string | null = null) =>
  did(ask(api.PUT("/api/drops/{id}/proof-set/{recipientId}", { ...member(id, recipientId), body: { found, note } })));
export const addOwn = (id: number, recipientId: number) =>
  did(ask(api.POST("/api/drops/{id}/proof-set/own/{recipientId}", member(id, recipientId))));
export const removeOwn = (id: number, recipientId: number) =>
  did(ask(api.DELETE("/api/drops/{id}/proof-set/own/{recipientId}", member(id, recipientId))));
export const signOff = (id: number, note: string | null) =>
  did(ask(api.POST("/api/drops/{id}/sign-off", { params: { path: { id } }, body: { note } })));
export const withdraw = (id: number) => did(ask(api.DELETE("/api/drops/{id}/sign-off", { params: { path: { id } } })));
export const needSignOff = (id: number, needsSignOff: boolean) =>
  did(
    ask(api.PATCH("/api/drops/{id}", { params: { path: { id } }, body: { name: null, mailDate: null, needsSignOff, noMailDate: false } })),
  );

/** A recipient's message with its headers. */
export const mailQuery = (dropId: number, id: number) => ({
  queryKey: keys.drop(dropId, "mail", id),
  queryFn: () => ask(api.GET("/api/drops/{id}/recipients/{recipientId}/mail", { params: { path: { id: dropId, recipientId: id } } })),
});
