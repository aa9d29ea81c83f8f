import { useLayoutEffect, useRef, useState } from "react";

/** How wide an element is, known before anything is painted: what is laid out by it is laid out once. 0 only where it is not there yet. */
export function useWidth<T extends HTMLElement>() {
  const ref = useRef<T>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const element = ref.current;
    if (!element) {
      return;
    }
    const measure = () => setWidth(element.clientWidth);
    measure();
    const resized = new ResizeObserver(measure);
    resized.observe(element);
    return () => resized.disconnect();
  }, []);
  return { ref, width };
}
