import { type RefObject, useLayoutEffect, useRef, useState } from 'react';

/**
 * How high a figure is drawn, in its own units, so that its text keeps its size on a low screen: the room that it has, at
 * most its full height. width: of the drawing; least: below it nothing can be told apart any more.
 */
export function useRoom(width: number, full: number, least: number): [RefObject<SVGSVGElement | null>, number] {
  const ref = useRef<SVGSVGElement>(null);
  const [height, setHeight] = useState(full);
  useLayoutEffect(() => {
    const figure = ref.current;
    if (!figure || typeof ResizeObserver === 'undefined') return;
    const measure = () => {
      const { clientWidth, clientHeight } = figure;
      if (clientWidth === 0 || clientHeight === 0) return;
      const room = Math.floor((clientHeight * width) / clientWidth);
      setHeight(Math.max(least, Math.min(full, room)));
    };
    const observer = new ResizeObserver(measure);
    observer.observe(figure);
    return () => observer.disconnect();
  }, [width, full, least]);
  return [ref, height];
}
