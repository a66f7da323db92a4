package nariz.carburetor;

/** How much overlap the camshaft has, in the words people use; drives the default volumetric efficiency. */
public enum Cam {
    /** Standard road cam. */
    MILD,
    /** Warm road cam. */
    MEDIUM,
    /** Fast road cam, audible lope. */
    BIG,
    /** Competition cam. */
    WILD
}
