import { useEffect, useRef, useState } from "react";

/** True once the element has come near the window: what is costly is drawn or asked for only then. */
export function useSeen<T extends Element>() {
  const ref = useRef<T>(null);
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const watcher = new IntersectionObserver((entries) => entries.some((e) => e.isIntersecting) && setSeen(true), { rootMargin: "300px" });
    if (ref.current) watcher.observe(ref.current);
    return () => watcher.disconnect();
  }, []);
  return [ref, seen] as const;
}
