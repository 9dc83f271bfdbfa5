/** Undo and redo are the piece's in fields and lists too, but for what is typed and not yet set. */
export const isUndo = (event: KeyboardEvent) =>
  (event.ctrlKey || event.metaKey) && /^[zy]$/i.test(event.key);
