/** Numbers of the things in a file are counted here. */
declare module "dxf-writer/src/Handle" {
  const Handle: { seed: number };
  export default Handle;
}
