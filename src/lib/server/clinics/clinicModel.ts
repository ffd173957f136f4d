import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Notation } from '../../core/anatomy/teeth';
import { plainLanguage } from '../../core/time/language';

/** A clinic and its settings. */
export class Clinic extends Model<InferAttributes<Clinic>, InferCreationAttributes<Clinic>> {
  declare clinicId: string;
  declare name: string;
  declare notation: CreationOptional<Notation>;
  declare timeZone: CreationOptional<string>;
  declare language: CreationOptional<string>;
  declare binDays: CreationOptional<number>;
  declare putAwayDays: CreationOptional<number>;
}

export function defineClinic(sequelize: Sequelize): void {
  Clinic.init(
    {
      clinicId: { type: DataTypes.UUID, primaryKey: true },
      name: { type: DataTypes.TEXT, allowNull: false },
      notation: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'fdi' },
      timeZone: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'UTC' },
      language: { type: DataTypes.TEXT, allowNull: false, defaultValue: plainLanguage },
      binDays: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 90 },
      putAwayDays: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 30 }
    },
    { sequelize, tableName: 'clinic' }
  );
}
