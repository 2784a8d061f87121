/** Style sheets are bundled as their text. */
declare module '*.css' {
  const text: string;
  export default text;
}
