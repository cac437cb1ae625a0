/** The body of every answer that is not a success. */
export interface ApiError {
  error: {
    /** Stable, for programs: `name.taken`, `series.title`, `session.none` … */
    code: string;
    /** For a person. */
    message: string;
    /** The part of the input it is about; empty where there is none. */
    where: string;
  };
}
