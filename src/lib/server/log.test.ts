import { DatabaseError } from 'sequelize';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../e2e/harness/clinic';
import { log, loggedError } from './log';

const clinic = useClinic();

/** A line as it would be written. */
function lineOf(error: unknown): string {
  return JSON.stringify(loggedError(error));
}

describe('an error in the log', () => {
  it('of a failed insert says table and constraint, and holds neither names nor pixels', async () => {
    const pixels = Buffer.alloc(2_000_000, 'PLANTED');
    const failing = clinic.inside((tx) =>
      tx.sql(
        'insert into picture_level (clinic_id, picture_id, frame, level, width, height, encoding, bytes) values ($1, $2, 0, 0, 1, 1, $3, $4)',
        clinic.clinicId,
        clinic.patientId,
        'Planted^Name',
        pixels
      )
    );
    const error = await failing.then(
      () => null,
      (thrown: unknown) => thrown
    );
    expect(error).toBeInstanceOf(DatabaseError);
    const line = lineOf(error);
    expect(line).not.toMatch(/planted/i);
    expect(line.length).toBeLessThan(6_000);
    expect(line).toMatch(/picture_level/);
    expect(line).toMatch(/log\.test\.ts/);
  });
  it('repeats no text that somebody entered, wherever in its causes it stands', () => {
    const parse = () => JSON.parse('Planted Name');
    try {
      parse();
    } catch (cause) {
      const line = lineOf(new Error('Planted outside', { cause }));
      expect(line).not.toMatch(/planted/i);
      expect(line).toMatch(/SyntaxError/);
    }
    expect(lineOf('Planted')).not.toMatch(/planted/i);
  });
  it('says what went wrong in the program itself', () => {
    try {
      (undefined as unknown as { x: number }).x.toFixed();
    } catch (error) {
      expect(lineOf(error)).toMatch(/reading 'x'/);
    }
    expect(log[Symbol.for('pino.serializers') as never]).toHaveProperty('err', loggedError);
  });
});
