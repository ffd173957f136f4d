export interface Refusal {
  code: string;
  sentence: string;
  next: string;
}

/** What a process says about a file from outside: what was asked, or why it can't be. */
export type FileAnswer<T> = { done: T } | { refused: Refusal };
/** What a process tells whoever waits: which it is, once it begins, and how large a picture its file announces. */
export interface ProcessNews {
  pid?: number;
  /** Of one frame. */
  sampleBytes?: number;
}
