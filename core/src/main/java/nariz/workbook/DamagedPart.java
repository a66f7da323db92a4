package nariz.workbook;

/** Something packed in a workbook that cannot be unpacked. */
final class DamagedPart extends RuntimeException {
    private static final long serialVersionUID = 1L;

    DamagedPart(String what) {
        super(what);
    }
}
