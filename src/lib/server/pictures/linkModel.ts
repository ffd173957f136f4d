import {
  DataTypes,
  type InferAttributes,
  type InferCreationAttributes,
  Model,
  type Sequelize
} from 'sequelize';
import type { Place } from '../../core/anatomy/place';

/** A picture linked to a place in the body. */
export class PictureLink extends Model<InferAttributes<PictureLink>, InferCreationAttributes<PictureLink>> {
  declare clinicId: string;
  declare pictureId: string;
  declare placeKey: string;
  declare place: Place;
  declare linkedBy: string;
}

export function definePictureLink(sequelize: Sequelize): void {
  PictureLink.init(
    {
      clinicId: { type: DataTypes.UUID, primaryKey: true },
      pictureId: { type: DataTypes.UUID, primaryKey: true },
      placeKey: { type: DataTypes.TEXT, primaryKey: true },
      place: { type: DataTypes.JSONB, allowNull: false },
      linkedBy: { type: DataTypes.UUID, allowNull: false }
    },
    { sequelize, tableName: 'picture_place' }
  );
}
