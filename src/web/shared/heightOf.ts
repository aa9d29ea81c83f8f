/** CSS pixels that a page in a frame is high: the frame is made as high, so that the room scrolls and not the frame. */
export const heightOf = (body: HTMLElement) => Math.ceil(body.getBoundingClientRect().height) + 1;
