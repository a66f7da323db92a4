package nariz.app;

/** x. */
public final class Main {
    private Main() {
    }

    /**
     * x.
     *
     * @param args x
     */
    public static void main(String[] args) {
    }
}
