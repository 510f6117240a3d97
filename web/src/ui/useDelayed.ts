import { useEffect, useState } from "react";

/** A value that follows another once it has rested for a moment. */
export function useDelayed<T>(value: T, milliseconds: number): T {
  const [delayed, setDelayed] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setDelayed(value), milliseconds);
    return () => clearTimeout(timer);
  }, [value, milliseconds]);
  return delayed;
}
