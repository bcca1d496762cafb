/** The part of dns-zonefile that is used; it has no types of its own. */
declare module 'dns-zonefile' {
  interface Named {
    name: string;
  }
  const library: {
    parse(text: string): {
      a?: (Named & { ip: string })[];
      aaaa?: (Named & { ip: string })[];
      cname?: (Named & { alias: string })[];
      mx?: { preference: number; host: string }[];
      soa?: { mname: string; minimum: number };
    };
  };
  export default library;
}
