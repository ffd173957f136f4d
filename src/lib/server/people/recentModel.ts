import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize
} from 'sequelize';
import type { Patient } from '../visits/patientModel';

/** A chart that somebody opened, and when last. */
export class Recent extends Model<InferAttributes<Recent>, InferCreationAttributes<Recent>> {
  declare userId: string;
  declare patientId: string;
  declare clinicId: string;
  declare openedAt: Date;
  declare patient?: NonAttribute<Patient>;
}

export function defineRecent(sequelize: Sequelize): void {
  Recent.init(
    {
      userId: { type: DataTypes.UUID, primaryKey: true },
      patientId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      openedAt: { type: DataTypes.DATE, allowNull: false }
    },
    { sequelize, tableName: 'recent' }
  );
}
