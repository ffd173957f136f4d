import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { MarkerShape } from '../../core/calibration/markerShape';

/** Something of known size that the clinic lays into its pictures. */
export class Marker extends Model<InferAttributes<Marker>, InferCreationAttributes<Marker>> {
  declare clinicId: string;
  declare markerId: string;
  declare name: string;
  declare shape: MarkerShape;
  declare sizeMm: number;
  /** Half the range its size may have. */
  declare toleranceMm: number;
}

export function defineMarker(sequelize: Sequelize): void {
  Marker.init(
    {
      markerId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      shape: { type: DataTypes.TEXT, allowNull: false },
      sizeMm: { type: DataTypes.DOUBLE, allowNull: false },
      toleranceMm: { type: DataTypes.DOUBLE, allowNull: false }
    },
    { sequelize, tableName: 'marker' }
  );
}
