import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
import { dropTargetForExternal } from '@atlaskit/pragmatic-drag-and-drop/external/adapter';
import { containsFiles, getFiles } from '@atlaskit/pragmatic-drag-and-drop/external/file';

/** Makes an element carry a take when it is dragged. */
export function takeDraggable(takeId: string | null): (element: HTMLElement) => (() => void) | void {
  return (element) => {
    if (takeId === null) return;
    return draggable({ element, getInitialData: () => ({ takeId }) });
  };
}

interface TakeTarget {
  over: (is: boolean) => void;
  take: (takeId: string) => void;
}
interface Target extends TakeTarget {
  slotId: string | null;
  files: (files: File[]) => void;
}

/** A place where takes can be dropped. */
export function takeTarget({ over, take }: TakeTarget): (element: HTMLElement) => () => void {
  return (element) =>
    dropTargetForElements({
      element,
      canDrop: ({ source }) => typeof source.data.takeId === 'string',
      onDragEnter: () => over(true),
      onDragLeave: () => over(false),
      onDrop: ({ source }) => {
        over(false);
        take(source.data.takeId as string);
      }
    });
}

/** A place where takes and files can be dropped: a well, or the bench. */
export function wellTarget(target: Target): (element: HTMLElement) => () => void {
  return (element) =>
    combine(
      takeTarget(target)(element),
      dropTargetForExternal({
        element,
        canDrop: containsFiles,
        onDragEnter: () => target.over(true),
        onDragLeave: () => target.over(false),
        onDrop: ({ source }) => {
          target.over(false);
          target.files(getFiles({ source }));
        }
      })
    );
}
