/** What rough presses can be made sharper by: the outline of a round head, a straight edge, both sides of a shaft, the end of a root. */
export type Sharpening =
  | { kind: 'round'; landmark: string }
  | { kind: 'edge' | 'shaft'; ends: readonly [string, string] }
  /** Above it are landmarks whose middle lies in the middle of the root; landmarks along it lie in its middle. */
  | { kind: 'root'; above: readonly string[]; tip: string; along?: readonly string[] };
