import { designKey, keepDesign, keptDesign } from './kept.js';
import { designInLink } from './link.js';

/** A text as it stands where it is kept. */
export interface Kept {
  readonly text: string;
  readonly version: string;
}

type Saved =
  | { readonly kind: 'saved'; readonly version: string }
  | { readonly kind: 'conflict'; readonly theirs: Kept }
  | { readonly kind: 'failed'; readonly message: string };

/** Where the design of this page is kept: the file that `jocus open` serves, or this browser. */
export interface DesignFile {
  readonly name: string;
  /** What its versions are kept under in this browser. */
  readonly key: string;
  readonly isInBrowser: boolean;
  readonly first: Kept;
  save(text: string, base: string): Promise<Saved>;
  /** Called whenever somebody else has changed it. */
  listen(changed: (kept: Kept) => void, lost: (isLost: boolean) => void): void;
}

/** What the page shows first where it has no design yet, and why a link was of no use. */
export interface Home {
  readonly link: 'damaged' | 'too large' | undefined;
}

const keptMark = 'kept=';

/** The token that the address holds; kept for a reload, and taken out of what the address bar shows. */
function tokenOf(): string | undefined {
  const given = location.hash.slice(1);
  if (given !== '' && !given.includes('=')) {
    sessionStorage.setItem('token', given);
    history.replaceState(null, '', location.pathname);
  }
  return sessionStorage.getItem('token') ?? undefined;
}

/** Whether the page comes from `jocus open FILE`, which says so with the page; any other host serves the page alone. */
const servesFile = (): boolean =>
  performance
    .getEntriesByType('navigation')
    .some((entry) => (entry as PerformanceNavigationTiming).serverTiming.some(({ name }) => name === 'file'));

/** Opens what stands behind this page: the file of `jocus open`, a design kept in this browser or in a link, or nothing yet. */
export async function openFile(): Promise<DesignFile | Home | 'no token'> {
  const token = tokenOf();
  if (token === undefined) return servesFile() ? 'no token' : openKept();
  const headers = { 'x-jocus-token': token };
  const found = await fetch('api/file', { headers });
  if (!found.ok) return 'no token';
  const { name, id, text, version } = (await found.json()) as Kept & { name: string; id: string };
  return {
    name,
    key: `file ${id}`,
    isInBrowser: false,
    first: { text, version },
    async save(changed, base) {
      try {
        const answer = await fetch('api/file', {
          method: 'PUT',
          headers,
          body: JSON.stringify({ text: changed, base }),
        });
        const told = (await answer.json()) as Kept & { message?: string };
        if (answer.ok) return { kind: 'saved', version: told.version };
        if (answer.status === 409) return { kind: 'conflict', theirs: told };
        return { kind: 'failed', message: told.message ?? String(answer.status) };
      } catch {
        return { kind: 'failed', message: '' };
      }
    },
    listen(changed, lost) {
      const events = new EventSource(`api/changes?token=${encodeURIComponent(token)}`);
      events.addEventListener('file', ({ data }) => changed(JSON.parse(data) as Kept));
      events.addEventListener('open', () => lost(false));
      events.addEventListener('error', () => lost(true));
    },
  };
}

async function openKept(): Promise<DesignFile | Home> {
  const linked = await designInLink();
  if (linked === 'damaged' || linked === 'too large') return { link: linked };
  if (linked !== undefined) return inBrowser('design.yaml', linked.text);
  const [, id] = /^#kept=(\w+)$/.exec(location.hash) ?? [];
  const kept = id === undefined ? undefined : await reopened(id).catch(() => undefined);
  return kept ?? { link: undefined };
}

/** A design that this browser has kept, or undefined where it was forgotten. */
export async function reopened(id: string): Promise<DesignFile | undefined> {
  const kept = await keptDesign(id);
  return kept && inBrowser(kept.name, kept.text, id);
}

/** A design that is kept in this browser, under an id that the address holds, so that a reload finds it. */
export async function inBrowser(
  name: string,
  text: string,
  id: string = crypto.randomUUID().slice(0, 8),
): Promise<DesignFile> {
  // A browser that keeps nothing says so at the first change.
  await keepDesign(id, name, text).catch(() => {});
  history.replaceState(null, '', `${location.pathname}#${keptMark}${id}`);
  return {
    name,
    key: designKey(id),
    isInBrowser: true,
    first: { text, version: '' },
    async save(changed) {
      try {
        await keepDesign(id, name, changed);
        return { kind: 'saved', version: '' };
      } catch (error) {
        return { kind: 'failed', message: (error as Error).message };
      }
    },
    listen() {},
  };
}
