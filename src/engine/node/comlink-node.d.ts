declare module "comlink/dist/esm/node-adapter.mjs" {
  import type { Endpoint } from "comlink";

  const nodeEndpoint: (port: unknown) => Endpoint;
  export default nodeEndpoint;
}
