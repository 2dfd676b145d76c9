export interface Size {
  readonly width: number;
  readonly height: number;
}

export interface Rectangle extends Size {
  readonly x: number;
  readonly y: number;
}

/**
 * How much of a picture may be cropped away to cover the frame: 16 % of one side, just enough for a 3:2 photograph in a
 * 16:9 film. More than that is not cropped but shown whole beside a fill, so that no subject is cut off unseen.
 */
const LARGEST_CROP = 0.16;
/** Of what is cropped from the height, this share goes from the top: heads are nearer to it than feet to the bottom. */
const TOP_SHARE = 0.35;

export interface Framing {
  /** Part of the picture that is shown, as shares of its width and height, 0 to 1. */
  readonly source: Rectangle;
  /** Where it is shown, in pixels of the frame. */
  readonly target: Rectangle;
  readonly covers: boolean;
}

/** Shows a picture in a frame: cropped to cover it where little is lost, otherwise whole and in the middle. */
export function framePicture(picture: Size, frame: Size): Framing {
  const pictureShape = picture.width / picture.height;
  const frameShape = frame.width / frame.height;
  const shownHeight = Math.min(1, pictureShape / frameShape);
  const shownWidth = Math.min(1, frameShape / pictureShape);
  if (shownHeight >= 1 - LARGEST_CROP && shownWidth >= 1 - LARGEST_CROP) {
    return {
      source: { x: (1 - shownWidth) / 2, y: (1 - shownHeight) * TOP_SHARE, width: shownWidth, height: shownHeight },
      target: { x: 0, y: 0, ...frame },
      covers: true,
    };
  }
  return { source: WHOLE, target: whole(picture, frame), covers: false };
}

/** The middle part of an image that covers the frame, as shares of the image. */
export function coveringPart(image: Size, frame: Size): Rectangle {
  const scale = Math.max(frame.width / image.width, frame.height / image.height);
  const width = frame.width / scale / image.width;
  const height = frame.height / scale / image.height;
  return { x: (1 - width) / 2, y: (1 - height) / 2, width, height };
}

const WHOLE: Rectangle = { x: 0, y: 0, width: 1, height: 1 };

function whole(picture: Size, frame: Size): Rectangle {
  const scale = Math.min(frame.width / picture.width, frame.height / picture.height);
  const width = Math.round(picture.width * scale);
  const height = Math.round(picture.height * scale);
  return { x: Math.round((frame.width - width) / 2), y: Math.round((frame.height - height) / 2), width, height };
}
