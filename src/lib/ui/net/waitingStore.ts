import { type DBSchema, type IDBPDatabase, openDB } from 'idb';

/** A change that was made on a page and that the server does not have yet, or can never take. */
export interface Change {
  /** Given once; however often it is offered, it is kept once. */
  key: string;
  userId: string;
  method: 'POST' | 'DELETE';
  url: string;
  body: unknown;
  /** Bytes of a file that is to be brought in; then they are what is sent. */
  file: Blob | null;
  /** Changes of one lane are offered one after the other, in the order they were made. */
  lane: string;
  /** What it is, for people. */
  words: string;
  madeAt: string;
  /** Set once the server has said that it can't take it. */
  refused: { sentence: string; next: string } | null;
}

export type StoredChange = Change & { order: number };

interface Schema extends DBSchema {
  change: { key: number; value: Change & { order?: number }; indexes: { lane: string; key: string } };
}

/** Where changes wait: they stay there when the page is closed. */
export interface WaitingStore {
  /** False where the browser keeps nothing: then they last as long as the page. */
  durable: boolean;
  all(): Promise<StoredChange[]>;
  add(change: Change): Promise<StoredChange>;
  put(change: StoredChange): Promise<void>;
  remove(order: number): Promise<void>;
}

export async function openWaitingStore(name = 'yonder-tray'): Promise<WaitingStore> {
  try {
    return inDatabase(
      await openDB<Schema>(name, 1, {
        upgrade(database) {
          const store = database.createObjectStore('change', { keyPath: 'order', autoIncrement: true });
          store.createIndex('lane', 'lane');
          store.createIndex('key', 'key', { unique: true });
        }
      })
    );
  } catch {
    return inMemory();
  }
}

function inDatabase(database: IDBPDatabase<Schema>): WaitingStore {
  return {
    durable: true,
    all: async () => (await database.getAll('change')) as StoredChange[],
    add: async (change) => ({ ...change, order: await database.add('change', change) }),
    put: async (change) => void (await database.put('change', change)),
    remove: (order) => database.delete('change', order)
  };
}

function inMemory(): WaitingStore {
  const held = new Map<number, StoredChange>();
  let last = 0;
  return {
    durable: false,
    all: async () => [...held.values()],
    add: async (change) => {
      const stored = { ...change, order: ++last };
      held.set(stored.order, stored);
      return stored;
    },
    put: async (change) => void held.set(change.order, change),
    remove: async (order) => void held.delete(order)
  };
}
