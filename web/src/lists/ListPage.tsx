import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { listQuery } from "../api/queries";
import { ListDesk } from "./desk/ListDesk";
import { MissingRecord } from "../shell/WentWrong";

export function ListPage() {
  const id = Number(useParams().id);
  const list = useQuery({ ...listQuery(id), refetchInterval: (q) => (q.state.data?.checking ? 1000 : false) });
  if (list.error) return <MissingRecord error={list.error} what="list" to="/lists" back="Go to Lists" />;
  return list.data ? <ListDesk key={id} list={list.data} /> : null;
}
