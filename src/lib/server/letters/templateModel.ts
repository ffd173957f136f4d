import {
  type CreationOptional,
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';

/** A template for letters: what it is called, and which version is its newest. */
export class TemplateRow extends Model<InferAttributes<TemplateRow>, InferCreationAttributes<TemplateRow>> {
  declare clinicId: string;
  declare templateId: string;
  declare name: string;
  declare number: number;
  declare seq: number;
  declare retiredAt: CreationOptional<Date | null>;
}

export function defineTemplate(sequelize: Sequelize): void {
  TemplateRow.init(
    {
      templateId: { type: DataTypes.UUID, primaryKey: true },
      clinicId: { type: DataTypes.UUID, allowNull: false },
      name: { type: DataTypes.TEXT, allowNull: false },
      number: { type: DataTypes.INTEGER, allowNull: false },
      seq: { type: DataTypes.INTEGER, allowNull: false },
      retiredAt: DataTypes.DATE
    },
    { sequelize, tableName: 'letter_template' }
  );
}
