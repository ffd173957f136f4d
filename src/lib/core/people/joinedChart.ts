/** A chart that was joined into another, as both tell it. */
export interface JoinedChart {
  joinId: string;
  /** The one that lies in the other. */
  gone: { patientId: string; name: string; recordNumber: string; birthDate: string | null };
  at: string;
  by: string;
  reason: string;
  parted: { at: string; by: string; reason: string } | null;
}
