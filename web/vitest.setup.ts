// What browsers have and the tests' stand-in for one does not: it draws nothing, so nothing there is ever resized or loaded.
if (typeof document !== "undefined") {
  globalThis.ResizeObserver ??= class {
    observe() {}
    unobserve() {}
    disconnect() {}
  };
  if (!("fonts" in document)) Object.defineProperty(document, "fonts", { value: new EventTarget() });
}
