declare module 'justified-layout' {
  interface LayoutBox {
    aspectRatio: number;
    top: number;
    left: number;
    width: number;
    height: number;
  }
  interface LayoutOptions {
    containerWidth: number;
    containerPadding: number;
    boxSpacing: number;
    targetRowHeight: number;
    targetRowHeightTolerance?: number;
  }
  export default function justifiedLayout(
    aspects: readonly number[],
    options: LayoutOptions,
  ): { containerHeight: number; boxes: LayoutBox[] };
}
