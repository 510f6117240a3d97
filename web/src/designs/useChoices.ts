import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef } from "react";
import type { Schema } from "../api/client";
import { detailsQuery } from "../api/queries";
import { builtIns } from "./FieldsPane";

const typeNames = { Text: "text", Number: "number", Date: "date", YesNo: "yes/no" };

/** What can be chosen while a field is typed: columns, detail rows, and the built-in fields. */
export function useChoices(listId: number | null, columns: Schema["Column"][]) {
  const sets = useQuery({ ...detailsQuery(listId ?? 0), enabled: listId !== null }).data;
  // Editors keep the function that they were made with, so the choices are found through it anew each time.
  const choices = useRef<{ name: string; hint: string }[]>([]);
  useEffect(() => {
    choices.current = [
      ...columns.map((c) => ({ name: c.name, hint: typeNames[c.type] })),
      ...(sets ?? []).flatMap((s) => s.columns.map((c) => ({ name: c.name, hint: `row of ${s.name}` }))),
      ...builtIns,
    ];
  }, [columns, sets]);
  return {
    sets: useMemo(() => sets ?? [], [sets]),
    setNames: useMemo(() => sets?.map((s) => s.name) ?? [], [sets]),
    choices: useCallback(() => choices.current, []),
  };
}
