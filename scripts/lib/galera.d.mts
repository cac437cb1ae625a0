export interface ClusterNode {
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>;
  /** Starts it again, and waits until it has what it missed. */
  start(): Promise<void>;
  /** Its process as it runs now. */
  pid(): number;
  /** Waits until that has ended. */
  ended(): Promise<unknown>;
}
export interface Cluster {
  url: string;
  nodes: ClusterNode[];
  stop(): Promise<void>;
}
export function startCluster(folder: string, nodes?: number): Promise<Cluster>;
