/** Addresses: `/` is the shelf, `/pieces/ID` an open piece, `/pieces/ID/NAME` a view of it. */

const PIECE = /^\/pieces\/([0-9a-f-]{36})(?:\/([a-z-]+))?$/;

class Router {
  path = $state(location.pathname);

  constructor() {
    addEventListener('popstate', () => (this.path = location.pathname));
  }

  go(path: string): void {
    history.pushState(null, '', path);
    this.path = path;
  }

  get pieceId(): string | undefined {
    return PIECE.exec(this.path)?.[1];
  }

  /** The name of the view that is shown; empty for the one that a piece opens with. */
  get view(): string {
    return PIECE.exec(this.path)?.[2] ?? '';
  }
}

export const router = new Router();

/** For links: a plain click stays in this page, any other does what the browser does. */
export function follow(event: MouseEvent): void {
  if (event.button !== 0 || event.ctrlKey || event.metaKey || event.shiftKey) return;
  const link = event.currentTarget as HTMLAnchorElement;
  event.preventDefault();
  router.go(new URL(link.href).pathname);
}
