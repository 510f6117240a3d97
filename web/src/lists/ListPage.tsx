import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { listQuery } from "../api/queries";
import { ListDesk } from "./desk/ListDesk";

export function ListPage() {
  const id = Number(useParams().id);
  const list = useQuery({ ...listQuery(id), refetchInterval: (q) => (q.state.data?.checking ? 1000 : false) });
  if (list.error) return <p className="p-8 text-error">{list.error.message}</p>;
  return list.data ? <ListDesk key={id} list={list.data} /> : null;
}
