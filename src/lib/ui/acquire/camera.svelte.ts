import { toast } from 'svelte-sonner';
import { wellsAlong } from '$core/tray/tray';
import { outbox } from '../net/outbox.svelte';
import { filesLane } from '../files/bringIn';
import type { Chair } from './chair.svelte';
import { simulatedCamera } from './simulatedCamera';

export interface FoundCamera {
  id: string;
  words: string;
}

const simulatedId = 'simulated';
const jpegQuality = 0.95;
const wantedPx = { width: { ideal: 1920 }, height: { ideal: 1440 } };

/** Why a browser gives no picture, and what to do. */
function inWords(error: unknown): { sentence: string; next: string } {
  const { name } = error as DOMException;
  if (name === 'NotAllowedError')
    return {
      sentence: 'This browser does not let this page use a camera.',
      next: 'Allow it beside the page’s address, then open the camera again. Files can be brought in meanwhile.'
    };
  if (name === 'NotReadableError')
    return {
      sentence: 'Another program holds the camera.',
      next: 'Close that program, then open the camera again.'
    };
  if (name === 'NotFoundError' || name === 'OverconstrainedError')
    return { sentence: 'No camera is connected to this machine.', next: 'Connect one, then open it again.' };
  return {
    sentence: 'The camera gives no picture.',
    next: 'Take it out and put it in again, then open the camera again.'
  };
}

/** A camera of this machine: live, or looking at what it took. Every still is kept as it is taken. */
export class Camera {
  open = $state(false);
  /** A still is looked at; the camera goes on behind it. */
  looking = $state(false);
  cameras = $state.raw<FoundCamera[]>([]);
  chosen = $state('');
  stream = $state.raw<MediaStream | null>(null);
  problem = $state.raw<{ sentence: string; next: string } | null>(null);
  /** Pictures of this sitting, in the order they were taken. */
  stills = $state.raw<string[]>([]);
  private stopSimulation: (() => void) | null = null;
  private count = 0;
  /** Slots for which a still is on its way, until the tray shows it there. */
  private readonly underWay = new Set<string>();
  video: HTMLVideoElement | null = null;

  constructor(
    private readonly chair: Chair,
    private readonly visit: { visitId: string; seed: number; simulated: boolean }
  ) {}

  async begin(): Promise<void> {
    this.open = true;
    this.looking = false;
    await this.start(localStorage.getItem('camera') ?? '');
  }

  /** Goes over to a camera; to any that there is when this one is gone. */
  async start(id: string): Promise<void> {
    this.stop();
    this.problem = null;
    try {
      this.stream = id === simulatedId && this.visit.simulated ? await this.simulated() : await this.real(id);
    } catch (error) {
      if (!(error instanceof DOMException)) throw error;
      await this.withoutReal(error);
    }
    await this.lookForCameras();
    const track = this.stream?.getVideoTracks()[0];
    if (!track) return;
    this.chosen = this.stopSimulation ? simulatedId : (track.getSettings().deviceId ?? '');
    localStorage.setItem('camera', this.chosen);
    track.onended = () => {
      this.stop();
      this.problem = { sentence: 'The camera was taken away.', next: 'Connect it and open it again.' };
    };
  }

  /** Where this machine has none, the demo's own is better than nothing; what is wrong is said all the same. */
  private async withoutReal(error: DOMException): Promise<void> {
    if (error.name === 'NotFoundError' && this.visit.simulated) this.stream = await this.simulated();
    else this.problem = inWords(error);
  }

  private async simulated(): Promise<MediaStream> {
    const { stream, stop } = await simulatedCamera(this.visit.seed);
    this.stopSimulation = stop;
    return stream;
  }

  private async real(id: string): Promise<MediaStream> {
    if (!navigator.mediaDevices)
      throw new DOMException('this page is not served securely', 'NotAllowedError');
    const exact = id === '' || id === simulatedId ? {} : { deviceId: { exact: id } };
    try {
      return await navigator.mediaDevices.getUserMedia({ video: { ...wantedPx, ...exact } });
    } catch (error) {
      if ((error as DOMException).name !== 'OverconstrainedError') throw error;
      return navigator.mediaDevices.getUserMedia({ video: wantedPx });
    }
  }

  private async lookForCameras(): Promise<void> {
    const devices = (await navigator.mediaDevices?.enumerateDevices()) ?? [];
    const real = devices
      .filter(({ kind, deviceId }) => kind === 'videoinput' && deviceId !== '')
      .map(({ deviceId, label }, i) => ({ id: deviceId, words: label || `Camera ${i + 1}` }));
    this.cameras = [
      ...real,
      ...(this.visit.simulated ? [{ id: simulatedId, words: 'Simulated camera' }] : [])
    ];
  }

  /** Takes what the camera sees now: into the slot that wants a photograph, else onto the bench. */
  async still(): Promise<void> {
    if (!this.open) return;
    if (this.looking) {
      this.looking = false;
      return;
    }
    const { video } = this;
    if (!this.stream || !video || video.videoWidth === 0) return;
    const canvas = document.createElement('canvas');
    canvas.width = video.videoWidth;
    canvas.height = video.videoHeight;
    canvas.getContext('2d')!.drawImage(video, 0, 0);
    const { front } = this.chair;
    const slotId = this.slotForStill();
    if (slotId) this.underWay.add(slotId);
    const file = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/jpeg', jpegQuality));
    if (!file) return;
    const query = new URLSearchParams({ name: `Still ${++this.count}.jpg`, tray: front.trayId });
    if (slotId) query.set('slot', slotId);
    const { visitId } = this.visit;
    const url = `/api/visits/${visitId}/files?${query}`;
    const answer = await outbox.put({
      url,
      body: null,
      file,
      lane: filesLane(visitId),
      words: `Still ${this.count}`
    });
    const { pictureId } = (answer ?? {}) as { pictureId?: string };
    if (!pictureId && slotId) this.underWay.delete(slotId);
    if (pictureId) this.stills = [...this.stills, pictureId];
  }

  /** The slot that is next; one that has no still yet when a still for that one is on its way already; else the bench. */
  private slotForStill(): string | null {
    const { tray, slot } = this.chair;
    for (const id of this.underWay) if (tray.wells[id]?.takes.length !== 0) this.underWay.delete(id);
    if (slot?.projection !== 'photograph') return null;
    if (tray.anchored || !this.underWay.has(slot.id)) return slot.id;
    const free = wellsAlong(tray).find(
      (well) =>
        well.slot.projection === 'photograph' && well.takes.length === 0 && !this.underWay.has(well.slot.id)
    );
    return free?.slot.id ?? null;
  }

  look(pictureId: string): void {
    this.chair.show(pictureId);
    this.looking = true;
  }
  drop(pictureId: string): void {
    const picture = this.chair.pictureOf(pictureId);
    this.stills = this.stills.filter((id) => id !== pictureId);
    this.underWay.clear();
    if (picture) this.chair.drop(picture);
  }
  dropAll(): void {
    const { length } = this.stills;
    for (const id of this.stills) this.drop(id);
    toast.info(`${length} stills dropped.`, { description: 'Ctrl Z brings them back, one after the other.' });
  }

  close(): void {
    this.open = false;
    this.looking = false;
    this.stills = [];
    this.stop();
  }

  stop(): void {
    for (const track of this.stream?.getTracks() ?? []) track.stop();
    this.stopSimulation?.();
    this.stopSimulation = null;
    this.stream = null;
  }
}
