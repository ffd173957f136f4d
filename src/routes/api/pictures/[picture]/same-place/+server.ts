import { answered, signedIn } from '$lib/server/http/answer';
import { samePlacePictures } from '$lib/server/pictures/samePlace';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(() => samePlacePictures(signedIn(locals), params.picture));
