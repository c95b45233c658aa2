/** Something a scan or a typed text can mean, and where it leads. */
export interface Hit {
  type: string;
  title: string;
  under: string;
  href: string;
  exact: boolean;
}
