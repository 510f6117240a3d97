import { useEffect, useRef } from "react";
import { Link, useLocation, useRouteError } from "react-router";
import { ServerError } from "../api/client";
import { PageTitle } from "../ui/PageTitle";

/** What is shown in place of a page that could not be drawn. */
export function WentWrong() {
  const error = useRouteError();
  // A page that is loaded when it is opened is not there while the server is away, or after an update under another name.
  const unloaded = error instanceof TypeError && /import|fetch|module/i.test(error.message);
  return (
    <div className="p-8" role="alert">
      <PageTitle parts={["Something went wrong"]} />
      <h1 className="mb-2">Something went wrong</h1>
      <p className="mb-4 text-faint">
        {unloaded
          ? "This page could not be loaded from the server. Check that the server is running, then try again."
          : error instanceof Error
            ? error.message
            : "This page could not be shown."}{" "}
        Your saved work is safe.
      </p>
      <div className="flex gap-2">
        <button className="btn btn-primary" onClick={() => window.location.reload()}>
          Try again
        </button>
        <a className="btn btn-quiet" href="/">
          Go to Today
        </a>
      </div>
    </div>
  );
}

/** An address that leads nowhere. */
export function NoSuchPage() {
  const { pathname } = useLocation();
  return (
    <Missing title="This page does not exist" to="/" back="Go to Today">
      There is nothing at the address <strong className="break-all">{pathname}</strong>. Check the address, or search with Ctrl K.
    </Missing>
  );
}

/** What was not found, said so that it is read out, and where to go instead. */
export function Missing({ title, children, to, back }: { title: string; children: React.ReactNode; to: string; back: string }) {
  const heading = useRef<HTMLHeadingElement>(null);
  useEffect(() => heading.current?.focus(), []);
  return (
    <div className="flex max-w-lg flex-col items-start gap-3 p-8" role="alert">
      <PageTitle parts={[title]} />
      <h1 ref={heading} tabIndex={-1} className="outline-none">
        {title}
      </h1>
      <p className="text-faint">{children}</p>
      <Link className="btn btn-primary" to={to}>
        {back}
      </Link>
    </div>
  );
}

/** A record that could not be shown: removed since, or never there; anything else is said as the server said it. */
export function MissingRecord({ error, what, to, back }: { error: Error; what: string; to: string; back: string }) {
  const gone = error instanceof ServerError && error.status === 404;
  return (
    <Missing title={gone ? `This ${what} was not found` : `This ${what} could not be shown`} to={to} back={back}>
      {gone ? `It may have been removed, or the address is wrong. ${error.message}` : error.message}
    </Missing>
  );
}
