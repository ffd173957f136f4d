import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Trade } from '../../core/tray/pattern';

/** One version of a pattern. Its slots never change; a change makes the next version. */
export class PatternRow extends Model<InferAttributes<PatternRow>, InferCreationAttributes<PatternRow>> {
  declare clinicId: string;
  declare patternId: string;
  declare version: number;
  declare name: string;
  declare trade: Trade;
  declare slotsVersion: number;
  declare slots: unknown;
  declare madeBy: CreationOptional<string | null>;
  declare retiredAt: CreationOptional<Date | null>;
  /** Of a pattern for this once: the visit that it is for. */
  declare visitId: CreationOptional<string | null>;
}

export function definePatternRow(sequelize: Sequelize): void {
  PatternRow.init(
    {
      clinicId: { type: DataTypes.UUID, primaryKey: true },
      patternId: { type: DataTypes.UUID, primaryKey: true },
      version: { type: DataTypes.INTEGER, primaryKey: true },
      name: { type: DataTypes.TEXT, allowNull: false },
      trade: { type: DataTypes.TEXT, allowNull: false },
      slotsVersion: { type: DataTypes.INTEGER, allowNull: false },
      slots: { type: DataTypes.JSONB, allowNull: false },
      madeBy: { type: DataTypes.UUID, allowNull: true },
      retiredAt: { type: DataTypes.DATE, allowNull: true },
      visitId: { type: DataTypes.UUID, allowNull: true }
    },
    { sequelize, tableName: 'pattern' }
  );
}
