import { useState } from "react";

/**
 * The two answers about what may have gone out. After one is given neither can be given again until the data that
 * is shown is newer: a second click would answer for what the first has settled. Give it a key of what it asks about.
 */
export function DoubtAnswers({ done, size, settle }: { done: string; size: string; settle: (out: boolean) => Promise<boolean> }) {
  const [answered, setAnswered] = useState(false);
  const answer = async (out: boolean) => {
    setAnswered(true);
    if (!(await settle(out))) setAnswered(false);
  };
  return (
    <>
      <button className={`btn ${size}`} disabled={answered} onClick={() => void answer(true)}>
        {done}
      </button>{" "}
      <button className={`btn ${size}`} disabled={answered} onClick={() => void answer(false)}>
        {done.replace("Mark as ", "Mark as not ")}
      </button>
    </>
  );
}
