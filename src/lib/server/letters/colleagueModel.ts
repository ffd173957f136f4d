import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Liking } from '../../core/letter/colleague';

/** Somebody whom the clinic writes to. */
export class ColleagueRow extends Model<
  InferAttributes<ColleagueRow>,
  InferCreationAttributes<ColleagueRow>
> {
  declare clinicId: string;
  declare colleagueId: string;
  declare name: string;
  declare greeting: string;
  declare practice: string;
  declare address: string;
  declare likes: Liking;
  declare destinationId: string | null;
  declare retiredAt: CreationOptional<Date | null>;
}

export function defineColleague(sequelize: Sequelize): void {
  ColleagueRow.init(
    {
      colleagueId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      greeting: { type: DataTypes.TEXT, allowNull: false },
      practice: { type: DataTypes.TEXT, allowNull: false },
      address: { type: DataTypes.TEXT, allowNull: false },
      likes: { type: DataTypes.TEXT, allowNull: false },
      destinationId: DataTypes.UUID,
      retiredAt: DataTypes.DATE
    },
    { sequelize, tableName: 'colleague' }
  );
}
