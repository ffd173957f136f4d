import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type NonAttribute,
  type Sequelize
} from 'sequelize';
import type { Room } from '../clinics/roomModel';
import type { Patient } from './patientModel';

/** One patient, one day, one chair. */
export class Visit extends Model<InferAttributes<Visit>, InferCreationAttributes<Visit>> {
  declare visitId: string;
  declare clinicId: string;
  declare patientId: string;
  declare roomId: string;
  declare openedAt: Date;
  declare studyUid: string;
  declare seriesUid: string;
  declare accession: string;
  declare closedAt: CreationOptional<Date | null>;
  declare closedBy: CreationOptional<string | null>;
  declare patient?: NonAttribute<Patient>;
  declare room?: NonAttribute<Room>;
}

export function defineVisit(sequelize: Sequelize): void {
  Visit.init(
    {
      visitId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      patientId: { type: DataTypes.UUID, allowNull: false },
      roomId: { type: DataTypes.UUID, allowNull: false },
      openedAt: { type: DataTypes.DATE, allowNull: false },
      studyUid: { type: DataTypes.TEXT, allowNull: false },
      seriesUid: { type: DataTypes.TEXT, allowNull: false },
      accession: { type: DataTypes.TEXT, allowNull: false },
      closedAt: { type: DataTypes.DATE, allowNull: true },
      closedBy: { type: DataTypes.UUID, allowNull: true }
    },
    { sequelize, tableName: 'visit' }
  );
}
