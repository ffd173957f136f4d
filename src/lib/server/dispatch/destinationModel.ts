import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { DestinationKind } from '../../core/parcel/destination';

/** Where parcels can go, and how. */
export class Destination extends Model<InferAttributes<Destination>, InferCreationAttributes<Destination>> {
  declare destinationId: string;
  declare clinicId: string;
  declare name: string;
  declare kind: CreationOptional<DestinationKind>;
  /** Of a DICOMweb archive, which others are told of too. */
  declare url: string;
  declare settings: CreationOptional<Record<string, unknown>>;
  declare droppedAt: CreationOptional<Date | null>;
}

export function defineDestination(sequelize: Sequelize): void {
  Destination.init(
    {
      destinationId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      kind: { type: DataTypes.TEXT, allowNull: false, defaultValue: 'dicomweb' },
      url: { type: DataTypes.TEXT, allowNull: false },
      settings: { type: DataTypes.JSONB, allowNull: false, defaultValue: {} },
      droppedAt: { type: DataTypes.DATE, allowNull: true }
    },
    { sequelize, tableName: 'destination' }
  );
}
