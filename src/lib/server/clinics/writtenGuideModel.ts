import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** A guide that the clinic wrote itself, in its newest version. */
export class WrittenGuideRow extends Model<
  InferAttributes<WrittenGuideRow>,
  InferCreationAttributes<WrittenGuideRow>
> {
  declare clinicId: string;
  declare guideId: string;
  declare version: number;
  declare name: string;
  /** As it is exported, with the version of its format. */
  declare body: object;
  declare madeBy: string;
}

export function defineWrittenGuide(sequelize: Sequelize): void {
  WrittenGuideRow.init(
    {
      guideId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      version: { type: DataTypes.INTEGER, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      body: { type: DataTypes.JSONB, allowNull: false },
      madeBy: { type: DataTypes.UUID, allowNull: false }
    },
    { sequelize, tableName: 'written_guide' }
  );
}
