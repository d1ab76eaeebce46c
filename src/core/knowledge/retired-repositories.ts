/** Package repositories that no longer serve what builds ask them for. */
export interface RetiredRepository {
  /** Matches the address without its protocol. */
  address: RegExp;
  name: string;
  since: string;
  instead: string;
  source: string;
}

export const RETIRED_REPOSITORIES: RetiredRepository[] = [
  {
    address: /^(jcenter\.bintray\.com|dl\.bintray\.com|[\w.-]*\.bintray\.com)(\/|$)/,
    name: "JCenter and Bintray",
    since: "2021-05-01",
    instead: "mavenCentral(), or the vendor's own repository",
    source: 'JCenter sunset announcement; Gradle upgrading guide, "jcenter() is deprecated"',
  },
  {
    address: /^(s01\.)?oss\.sonatype\.org(\/|$)/,
    name: "OSSRH",
    since: "2025-06-30",
    instead: "mavenCentral(), or the snapshots repository of the Central Portal",
    source: 'central.sonatype.org, "OSSRH end of life"',
  },
];
