import {
  type CreationOptional,
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
  /** The pattern that its visits begin with, when their reason names none. */
  declare usualPattern: CreationOptional<string | null>;
  /** Whether a visit that is opened here gets its device ready at once. */
  declare opensArmed: CreationOptional<boolean>;
  /** Keys of its pedal, by what they do. */
  declare pedal: CreationOptional<object>;
  /** Since when nothing is taken there any more. */
  declare closedAt: CreationOptional<Date | null>;
}

export function defineRoom(sequelize: Sequelize): void {
  Room.init(
    {
      roomId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      trade: { type: DataTypes.TEXT, allowNull: false },
      place: { type: DataTypes.INTEGER, allowNull: false },
      usualPattern: { type: DataTypes.UUID, allowNull: true },
      opensArmed: { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false },
      pedal: { type: DataTypes.JSONB, allowNull: false, defaultValue: {} },
      closedAt: { type: DataTypes.DATE, allowNull: true }
    },
    { sequelize, tableName: 'room' }
  );
}
