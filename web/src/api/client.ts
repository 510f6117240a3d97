import { QueryClient } from "@tanstack/react-query";
import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema.gen";

export type Schema = components["schemas"];
export type Tray = NonNullable<Schema["Tray"]>;

const personKey = "bandeja.person";

/** The name that stands in logs; asked once per browser. */
export const person = {
  get: () => localStorage.getItem(personKey) ?? "",
  set: (name: string) => localStorage.setItem(personKey, name.trim()),
};

export const personHeader = () => ({ "X-Person": encodeURIComponent(person.get()) });

const withPerson: Middleware = {
  onRequest({ request }) {
    request.headers.set("X-Person", encodeURIComponent(person.get()));
    return request;
  },
};

// The state in which each record was read last (RFC 9110, section 8.8.3), by its path.
const tags = new Map<string, string>();
export const tagOf = (path: string) => tags.get(path);

const withTags: Middleware = {
  onResponse({ request, response }) {
    const tag = response.headers.get("ETag");
    if (tag) tags.set(new URL(request.url).pathname, tag);
  },
};

export const api = createClient<paths>({ baseUrl: "/" });
api.use(withPerson, withTags);

/** What went wrong, in a sentence for the user. */
export class ServerError extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The answer's data; throws the server's sentence where it refused. */
export async function ask<T>(request: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await request;
  } catch {
    throw new ServerError("The server is not responding. Check that it is running. What you see may be out of date.", 0);
  }
  if (answer.response.ok) return answer.data as T;
  throw refused(answer.error, answer.response.status);
}

function refused(problem: unknown, status: number) {
  const detail =
    problem !== null && typeof problem === "object" && "detail" in problem
      ? String(problem.detail)
      : `The server returned error ${status}.`;
  return new ServerError(detail, status);
}

/** Sends a file's bytes, with progress; the answer is JSON. */
export function sendFile<T>(
  path: string,
  file: Blob,
  progress?: (share: number) => void,
  signal?: AbortSignal,
  headers: Record<string, string> = {},
): Promise<T> {
  return new Promise((resolve, reject) => {
    const request = new XMLHttpRequest();
    request.open("POST", path);
    request.setRequestHeader("Content-Type", "application/octet-stream");
    request.setRequestHeader("X-Person", encodeURIComponent(person.get()));
    for (const [name, value] of Object.entries(headers)) request.setRequestHeader(name, value);
    request.upload.onprogress = (e) => progress?.(e.total ? e.loaded / e.total : 0);
    request.onload = () => {
      let body: unknown;
      try {
        body = JSON.parse(request.responseText);
      } catch {
        body = null;
      }
      if (request.status >= 200 && request.status < 300) resolve(body as T);
      else reject(refused(body, request.status));
    };
    request.onerror = () => reject(new ServerError("The upload failed because the connection was lost. Try again.", 0));
    request.onabort = () => reject(new ServerError("Canceled.", 0));
    signal?.addEventListener("abort", () => request.abort());
    request.send(file);
  });
}

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 15_000,
      retry: (count, error) => count < 2 && error instanceof ServerError && error.status === 0,
      refetchOnWindowFocus: true,
    },
  },
});
