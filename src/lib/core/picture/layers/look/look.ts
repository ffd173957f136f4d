import { isInverted, windowOf } from '../../../raster/look/look';
import { lookOfFirstVersion, lookSchema } from '../../../raster/look/lookSchema';
import { layerKind } from '../layerKind';

const voiFunctions = { linear: 'LINEAR', 'linear exact': 'LINEAR_EXACT', sigmoid: 'SIGMOID' } as const;

/** How a picture is seen. Since the third version a step can be switched off. */
export const lookLayer = layerKind({
  kind: 'look',
  words: 'Look',
  version: 3,
  many: false,
  schema: lookSchema,
  upcasters: { 1: lookOfFirstVersion, 2: (body) => body },
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
