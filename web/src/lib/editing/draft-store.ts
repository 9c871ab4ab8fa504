import type { Draft } from "./document";

/** Where a browser keeps edits that were not saved: by person, document and tab. */
export interface DraftStore {
  /** Takes over the newest draft that no open tab holds; null for none. */
  take<T>(person: string, document: string): Promise<Draft<T> | null>;
  /** Resolves when the draft is on the disk. */
  keep<T>(person: string, document: string, draft: Draft<T>): Promise<void>;
  drop(person: string, document: string): Promise<void>;
}

interface Row {
  person: string;
  document: string;
  tab: string;
  draft: Draft<unknown>;
}

const NAME = "glyptarch";
const DRAFTS = "drafts";
const BY_DOCUMENT = "by document";
const KEPT_DAYS = 90;
const DAY = 86_400_000;

/** The drafts of this tab alone, where the browser keeps none. */
export function draftsInMemory(): DraftStore {
  const rows = new Map<string, Draft<unknown>>();
  const key = (person: string, document: string) => JSON.stringify([person, document]);
  return {
    take: async <T>(person: string, document: string) =>
      (rows.get(key(person, document)) as Draft<T> | undefined) ?? null,
    keep: async (person, document, draft) => void rows.set(key(person, document), draft),
    drop: async (person, document) => void rows.delete(key(person, document)),
  };
}

function done<T>(request: IDBRequest<T>): Promise<T> {
  return new Promise((resolve, reject) => {
    request.onsuccess = () => resolve(request.result);
    request.onerror = () => reject(request.error);
  });
}

function opened(): Promise<IDBDatabase> {
  const request = indexedDB.open(NAME, 1);
  request.onupgradeneeded = () => {
    const store = request.result.createObjectStore(DRAFTS, { keyPath: ["person", "document", "tab"] });
    store.createIndex(BY_DOCUMENT, ["person", "document"]);
  };
  return done(request);
}

/** Names of the tabs that are open, by the locks that they hold; a killed tab holds none (Web Locks, W3C). */
async function openTabs(): Promise<ReadonlySet<string>> {
  const { held = [] } = await navigator.locks.query();
  return new Set(held.flatMap(({ name }) => name ?? []));
}

/**
 * Drafts on the disk (Indexed Database API, W3C). They are written at once, since a browser that is killed loses what it
 * would have written later.
 */
export function draftsOnDisk(): DraftStore {
  const tab = `draft ${crypto.randomUUID()}`;
  // Without locks, as outside a secure context, no other tab's drafts are touched.
  const locks = typeof navigator.locks === "object";
  if (locks) navigator.locks.request(tab, () => new Promise(() => {}));
  const database = opened();

  async function change(work: (store: IDBObjectStore) => void, { asks = false } = {}) {
    const transaction = (await database).transaction(DRAFTS, "readwrite", { durability: "strict" });
    const written = new Promise<void>((resolve, reject) => {
      transaction.oncomplete = () => resolve();
      transaction.onerror = () => reject(transaction.error);
      transaction.onabort = () => reject(transaction.error);
    });
    work(transaction.objectStore(DRAFTS));
    // Without this, a page that is being closed would not live to see its last request through.
    if (!asks) transaction.commit();
    return written;
  }

  return {
    async take<T>(person: string, document: string) {
      const living = locks ? await openTabs() : null;
      let taken: Draft<T> | null = null;
      const ask = (store: IDBObjectStore) => {
        const request = store.index(BY_DOCUMENT).getAll([person, document]);
        request.onsuccess = () => {
          const rows = (request.result as Row[])
            .filter((row) => row.tab === tab || (living && !living.has(row.tab)))
            .sort((one, other) => other.draft.at.localeCompare(one.draft.at));
          for (const old of rows.filter(({ draft }) => Date.now() - Date.parse(draft.at) > KEPT_DAYS * DAY))
            store.delete([person, document, old.tab]);
          const [newest] = rows;
          if (!newest) return;
          taken = newest.draft as Draft<T>;
          store.delete([person, document, newest.tab]);
          store.put({ ...newest, tab });
        };
      };
      await change(ask, { asks: true });
      return taken;
    },
    keep: (person, document, draft) => change((store) => void store.put({ person, document, tab, draft })),
    drop: (person, document) => change((store) => void store.delete([person, document, tab])),
  };
}

let store: DraftStore | null = null;

/** Uses another store from now on, such as an empty one in each test. */
export function keepDraftsIn(other: DraftStore): void {
  store = other;
}

/** The drafts of this browser. */
export function drafts(): DraftStore {
  store ??= typeof indexedDB === "undefined" ? draftsInMemory() : draftsOnDisk();
  return store;
}
