export interface ClusterNode {
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>;
  /** Lets it end in order. */
  stop(): Promise<void>;
  /** Starts it, and waits until it has what it missed. */
  start(): Promise<void>;
  /** Its process as it runs now. */
  pid(): number;
  /** Waits until that has ended. */
  ended(): Promise<unknown>;
}
export interface Cluster {
  url: string;
  /** The same nodes, that of a number first. */
  urlFrom(i: number): string;
  nodes: ClusterNode[];
  stop(): Promise<void>;
}
export function startCluster(
  folder: string,
  nodes?: number,
  options?: { tls?: { key: string; cert: string } | null; tests?: boolean },
): Promise<Cluster>;
/** Ports of loopback that nobody listens on just now. */
export function freePorts(n: number): Promise<number[]>;
