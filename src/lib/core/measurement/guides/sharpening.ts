/** What rough presses can be made sharper by: the outline of a round head, a straight edge, both sides of a shaft. */
export type Sharpening =
  { kind: 'round'; landmark: string } | { kind: 'edge' | 'shaft'; ends: readonly [string, string] };
