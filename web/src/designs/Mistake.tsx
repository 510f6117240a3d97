/** What is wrong with a field, and what was probably meant, which one press puts in its place. */
export function Mistake({ message, offer, onTake }: { message: string; offer: string | undefined; onTake: (source: string) => void }) {
  return (
    <div className="mb-2 bg-doubt px-2 py-1">
      <p>{message}</p>
      {offer !== undefined && (
        <button type="button" className="btn btn-quiet btn-xs mt-1 h-auto max-w-full py-0.5 text-left" onClick={() => onTake(offer)}>
          Use <code className="font-mono text-[12px] break-all">{`{${offer}}`}</code>
        </button>
      )}
    </div>
  );
}
