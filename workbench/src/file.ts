/** A text as it stands where it is kept. */
export interface Kept {
  readonly text: string;
  readonly version: string;
}

export type Saved =
  | { readonly kind: 'saved'; readonly version: string }
  | { readonly kind: 'conflict'; readonly theirs: Kept }
  | { readonly kind: 'failed'; readonly message: string };

/** Where the design of this page is kept: the file that `jocus open` serves. */
export interface DesignFile {
  readonly name: string;
  readonly first: Kept;
  save(text: string, base: string): Promise<Saved>;
  /** Called whenever somebody else has changed it. */
  listen(changed: (kept: Kept) => void, lost: (isLost: boolean) => void): void;
}

/** The token that the address holds; kept for a reload, and taken out of what the address bar shows. */
function tokenOf(): string | undefined {
  const given = location.hash.slice(1);
  if (given !== '') {
    sessionStorage.setItem('token', given);
    history.replaceState(null, '', location.pathname);
  }
  return sessionStorage.getItem('token') ?? undefined;
}

/** Opens the file behind this page, or says in words why it cannot. */
export async function openFile(): Promise<DesignFile | 'no token'> {
  const token = tokenOf();
  if (token === undefined) return 'no token';
  const headers = { 'x-jocus-token': token };
  const found = await fetch('api/file', { headers });
  if (!found.ok) return 'no token';
  const { name, text, version } = (await found.json()) as Kept & { name: string };
  return {
    name,
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
