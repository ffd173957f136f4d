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

interface Target {
  slotId: string | null;
  over: (is: boolean) => void;
  take: (takeId: string) => void;
  files: (files: File[]) => void;
}

/** A place where takes and files can be dropped: a well, or the bench. */
export function wellTarget(target: Target): (element: HTMLElement) => () => void {
  return (element) =>
    combine(
      dropTargetForElements({
        element,
        canDrop: ({ source }) => typeof source.data.takeId === 'string',
        onDragEnter: () => target.over(true),
        onDragLeave: () => target.over(false),
        onDrop: ({ source }) => {
          target.over(false);
          target.take(source.data.takeId as string);
        }
      }),
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
