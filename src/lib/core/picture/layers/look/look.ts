import { isInverted, windowOf } from '../../../raster/look/look';
import { lookOfFirstVersion, lookSchema } from '../../../raster/look/lookSchema';
import { isPointwise } from '../../../raster/look/table';
import { layerKind } from '../layerKind';

const voiFunctions = { linear: 'LINEAR', 'linear exact': 'LINEAR_EXACT', sigmoid: 'SIGMOID' } as const;

/** How a picture is seen. Steps that look at neighbours are drawn nowhere yet, so they are not taken either. */
export const lookLayer = layerKind({
  kind: 'look',
  words: 'Look',
  version: 2,
  many: false,
  schema: lookSchema.refine(isPointwise, 'a step of this look can’t be shown yet'),
  upcasters: { 1: lookOfFirstVersion },
  presentation: (look) => {
    const window = windowOf(look);
    return {
      SoftcopyVOILUTSequence: window
        ? [
            {
              WindowCenter: window.center,
              WindowWidth: window.width,
              VOILUTFunction: voiFunctions[window.by]
            }
          ]
        : undefined,
      PresentationLUTShape: isInverted(look) ? 'INVERSE' : 'IDENTITY'
    };
  }
});
