// A film printer on loopback (DICOM PS3.4 H): what it prints lies in a folder, one PNG a film, so that it can be looked at.
import fs from 'node:fs';
import http from 'node:http';
import path from 'node:path';
import dimse from 'dcmjs-dimse';
import { type Placed, developed } from './developing';

dimse.log.setLevel('silent');
const { Server, Scp, Dataset } = dimse;
const { NActionResponse, NCreateResponse, NDeleteResponse, NGetResponse, NSetResponse } = dimse.responses;
const {
  PresentationContextResult,
  RejectReason,
  RejectResult,
  RejectSource,
  SopClass,
  Status,
  TransferSyntax
} = dimse.constants;

const folder = process.env.FILM_FOLDER ?? path.resolve('.data/film');
fs.mkdirSync(folder, { recursive: true });
const title = process.env.FILM_TITLE ?? 'FILMS';

/**
 * empty: no film left. full: no room for a picture. hang up: told to print, it prints and says nothing. leave: it prints,
 * says so, and is gone.
 */
const faultKinds = ['none', 'empty', 'full', 'hang up', 'leave'] as const;
let fault: (typeof faultKinds)[number] = 'none';

const uid = (): string => `2.25.${BigInt(`0x${crypto.randomUUID().replaceAll('-', '')}`)}`;
const greyBox = '1.2.840.10008.5.1.1.4';
const colourBox = '1.2.840.10008.5.1.1.4.1';

type Elements = Record<string, unknown>;
interface FilmBox {
  across: number;
  down: number;
  lying: boolean;
  size: string;
  /** By the image box's number. */
  places: Map<string, { position: number; placed: Placed | null }>;
}

class Printer extends Scp {
  private readonly boxes = new Map<string, FilmBox>();
  private copies = 1;
  private colour = false;

  override associationRequested(
    association: Parameters<InstanceType<typeof Scp>['associationRequested']>[0]
  ): void {
    if (association.getCalledAeTitle() !== title)
      return this.sendAssociationReject(
        RejectResult.Permanent,
        RejectSource.ServiceUser,
        RejectReason.CalledAeNotRecognized
      );
    for (const { id } of association.getPresentationContexts()) {
      const context = association.getPresentationContext(id);
      const abstract = context.getAbstractSyntaxUid();
      this.colour = abstract === SopClass.BasicColorPrintManagementMeta;
      if (this.colour || abstract === SopClass.BasicGrayscalePrintManagementMeta)
        context.setResult(PresentationContextResult.Accept, TransferSyntax.ImplicitVRLittleEndian);
      else context.setResult(PresentationContextResult.RejectAbstractSyntaxNotSupported);
    }
    this.sendAssociationAccept();
  }

  override nGetRequest(...[request, done]: Parameters<InstanceType<typeof Scp>['nGetRequest']>): void {
    const response = NGetResponse.fromRequest(request);
    const [PrinterStatus, PrinterStatusInfo] =
      fault === 'empty' ? ['FAILURE', 'SUPPLY EMPTY'] : ['NORMAL', 'NORMAL'];
    response.setDataset(new Dataset({ PrinterStatus, PrinterStatusInfo }));
    response.setStatus(Status.Success);
    done(response);
  }

  override nCreateRequest(...[request, done]: Parameters<InstanceType<typeof Scp>['nCreateRequest']>): void {
    const response = NCreateResponse.fromRequest(request);
    const own = request.getAffectedSopInstanceUid() || uid();
    const of = (request.getDataset()?.getElements() ?? {}) as Elements;
    response.setAffectedSopInstanceUid(own);
    response.setStatus(Status.Success);
    if (request.getAffectedSopClassUid() === SopClass.BasicFilmSession)
      this.copies = Number(of.NumberOfCopies ?? 1);
    else {
      // It comes as two values, for its letters hold the sign between values.
      const format = /STANDARD[\\,](\d+),(\d+)/.exec([of.ImageDisplayFormat].flat().join('\\'));
      if (!format) response.setStatus(Status.InvalidAttributeValue);
      else {
        const [across, down] = [Number(format[1]), Number(format[2])];
        const places = Array.from({ length: across * down }, uid);
        this.boxes.set(own, {
          across,
          down,
          lying: of.FilmOrientation === 'LANDSCAPE',
          size: String(of.FilmSizeID ?? '14INX17IN'),
          places: new Map(places.map((each, i) => [each, { position: i + 1, placed: null }]))
        });
        response.setDataset(
          new Dataset({
            ...of,
            ImageDisplayFormat: `STANDARD\\${across},${down}`,
            ReferencedImageBoxSequence: places.map((each) => ({
              ReferencedSOPClassUID: this.colour ? colourBox : greyBox,
              ReferencedSOPInstanceUID: each
            }))
          })
        );
      }
    }
    done(response);
  }

  override nSetRequest(...[request, done]: Parameters<InstanceType<typeof Scp>['nSetRequest']>): void {
    const response = NSetResponse.fromRequest(request);
    const place = [...this.boxes.values()]
      .map(({ places }) => places.get(request.getRequestedSopInstanceUid()))
      .find(Boolean);
    const of = (request.getDataset()?.getElements() ?? {}) as Elements;
    const [image] = [of.BasicColorImageSequence ?? of.BasicGrayscaleImageSequence].flat() as Elements[];
    if (!place || !image) response.setStatus(Status.NoSuchObjectInstance);
    else if (fault === 'full') response.setStatus(0xc605);
    else {
      const [bytes] = [image.PixelData].flat() as ArrayBuffer[];
      place.placed = {
        width: Number(image.Columns),
        height: Number(image.Rows),
        channels: Number(image.SamplesPerPixel) === 3 ? 3 : 1,
        samples: new Uint8Array(bytes),
        widthMm: of.RequestedImageSize === undefined ? null : Number(of.RequestedImageSize)
      };
      response.setStatus(Status.Success);
    }
    done(response);
  }

  override nActionRequest(...[request, done]: Parameters<InstanceType<typeof Scp>['nActionRequest']>): void {
    const response = NActionResponse.fromRequest(request);
    const box = this.boxes.get(request.getRequestedSopInstanceUid());
    void this.print(box).then((status) => {
      if (fault === 'hang up') return this.sendAbort();
      response.setStatus(status);
      done(response);
    });
  }

  private async print(box: FilmBox | undefined): Promise<number> {
    if (!box) return Status.NoSuchObjectInstance;
    const { places } = box;
    // A picture wider than its place is refused: it was asked not to be made smaller (PS3.4 H.4.2.2.4).
    const film = await developed({
      ...box,
      placed: [...places.values()].map(({ position, placed }) => ({ position, placed }))
    });
    if (!film) return 0xc603;
    for (let copy = 1; copy <= this.copies; copy++) {
      const file = path.join(folder, `${String(Date.now())}-${box.size}-${copy}.png`);
      fs.writeFileSync(`${file}.part`, film);
      fs.renameSync(`${file}.part`, file);
    }
    return Status.Success;
  }

  override nDeleteRequest(...[request, done]: Parameters<InstanceType<typeof Scp>['nDeleteRequest']>): void {
    if (fault === 'leave') return this.sendAbort();
    const response = NDeleteResponse.fromRequest(request);
    response.setStatus(Status.Success);
    done(response);
  }

  override associationReleaseRequested(): void {
    this.sendAssociationReleaseResponse();
  }
}

const server = new Server(Printer);
server.on('networkError', () => {});
server.listen({ port: Number(process.env.FILM_PORT ?? 4795), host: '127.0.0.1' } as unknown as number);

const films = () => fs.readdirSync(folder).filter((name) => name.endsWith('.png'));
http
  .createServer((request, response) => {
    const url = new URL(request.url ?? '/', 'http://film');
    if (url.pathname === '/fault' && request.method === 'PUT') {
      const wanted = url.searchParams.get('kind') as typeof fault;
      if (faultKinds.includes(wanted)) fault = wanted;
    }
    response.writeHead(200, { 'content-type': 'application/json' });
    response.end(JSON.stringify({ fault, films: films().length }));
  })
  .listen(Number(process.env.PORT ?? 4796), '127.0.0.1', () => console.log('film printer listens'));
process.on('SIGTERM', () => process.exit(0));
