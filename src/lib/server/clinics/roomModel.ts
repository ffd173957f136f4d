import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Trade } from '../../core/tray/pattern';

/** A room of the clinic, and the trade that works in it. */
export class Room extends Model<InferAttributes<Room>, InferCreationAttributes<Room>> {
  declare roomId: string;
  declare clinicId: string;
  declare name: string;
  declare trade: Trade;
  /** Where it stands among the rooms. */
  declare place: number;
}

export function defineRoom(sequelize: Sequelize): void {
  Room.init(
    {
      roomId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      trade: { type: DataTypes.TEXT, allowNull: false },
      place: { type: DataTypes.INTEGER, allowNull: false }
    },
    { sequelize, tableName: 'room' }
  );
}
