import { del, entries, get, set, update } from 'idb-keyval';

/** A design that is kept in this browser. */
export interface KeptDesign {
  readonly name: string;
  readonly text: string;
  /** Milliseconds since 1970 of its last change. */
  readonly changed: number;
}

/** A text as it once was. */
export interface Version {
  readonly text: string;
  readonly at: number;
}

const mostVersions = 40;
/** Milliseconds of work that become one version. */
const versionSpan = 60_000;

export const designKey = (id: string): string => `design ${id}`;

/** All designs that are kept, the latest first, by their ids. */
export async function keptDesigns(): Promise<(KeptDesign & { readonly id: string })[]> {
  const all = await entries<string, KeptDesign>();
  return all
    .filter(([key]) => key.startsWith('design '))
    .map(([key, design]) => ({ ...design, id: key.slice('design '.length) }))
    .sort((a, b) => b.changed - a.changed);
}

export const keptDesign = (id: string): Promise<KeptDesign | undefined> => get(designKey(id));

export const keepDesign = (id: string, name: string, text: string): Promise<void> =>
  set(designKey(id), { name, text, changed: Date.now() } satisfies KeptDesign);

export async function forgetDesign(id: string): Promise<void> {
  await del(designKey(id));
  await del(`versions ${designKey(id)}`);
}

/** Texts of what is kept under a key, the latest first. */
export const versionsOf = async (key: string): Promise<readonly Version[]> =>
  (await get<Version[]>(`versions ${key}`)) ?? [];

/** Keeps a text among the versions: what was typed within a minute is one. */
export const keepVersion = (key: string, text: string): Promise<void> =>
  update<Version[]>(`versions ${key}`, (versions = []) => {
    const at = Date.now();
    const [last, ...older] = versions;
    if (last?.text === text) return versions;
    const isSoon = last !== undefined && at - last.at < versionSpan && versions.length > 1;
    return [{ text, at }, ...(isSoon ? older : versions)].slice(0, mostVersions);
  });

/** Work that could not be saved to its file yet. */
export const draftOf = (key: string): Promise<string | undefined> => get(`draft ${key}`);
export const keepDraft = (key: string, text: string): Promise<void> => set(`draft ${key}`, text);
export const dropDraft = (key: string): Promise<void> => del(`draft ${key}`);
