package nariz.workbook;

import static nariz.text.Message.message;

import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import nariz.carburetor.InputProblem;
import org.flywaydb.core.Flyway;
import org.flywaydb.core.api.output.MigrateResult;

/**
 * Brings a workbook file to the version this program writes: {@code migrations/V*.sql}, each in a transaction of its
 * own, after a copy of the file is set aside as {@code name.before-N}.
 */
final class Migrations {
    /** Version this program writes, as in {@code PRAGMA user_version}. */
    static final int VERSION = 4;
    /** The scripts in their order; the last brings a file to {@link #VERSION}. */
    private static final List<String> SCRIPTS = List.of("V1__workbook.sql", "V2__moments_and_plans.sql",
            "V3__sums.sql", "V4__recordings.sql");
    private static final int APPLICATION = 0x4e617269;
    private static final byte[] MAGIC = "SQLite format 3\0".getBytes(java.nio.charset.StandardCharsets.US_ASCII);

    private Migrations() {
    }

    /** Refuses what is no workbook or a newer one; reads only. */
    static void check(String name, Path file) throws IOException, SQLException {
        byte[] head = new byte[MAGIC.length];
        try (var in = Files.newInputStream(file)) {
            int n = in.readNBytes(head, 0, head.length);
            if (n == 0) {
                return;
            }
            if (!java.util.Arrays.equals(head, MAGIC)) {
                throw new InputProblem(name, 0, 0, "", message("problem.a-file-that-is-no-workbook"),
                        message("problem.pick-a-file-that-ends-in", Workbook.EXTENSION));
            }
        }
        try (Connection c = WorkbookFile.connect(file, true)) {
            int application = pragma(c, "application_id");
            int version = pragma(c, "user_version");
            if (version > VERSION) {
                throw new InputProblem(name, 0, 0, "", message("problem.a-workbook-of-version-where-this", version,
                        VERSION), message("problem.it-was-written-by-a-newer"));
            }
            // Somebody else may have finished a new workbook between the two looks: it is asked for again.
            if (application != APPLICATION && !begun(c) && pragma(c, "application_id") != APPLICATION) {
                throw new InputProblem(name, 0, 0, "", message("problem.a-database-of-another-program"),
                        message("problem.pick-a-file-that-nariz-has"));
            }
        }
    }

    /** Whether a database is a workbook whose first writing was cut short: nothing in it but the list of scripts. */
    private static boolean begun(Connection c) throws SQLException {
        try (Statement s = c.createStatement(); ResultSet r = s.executeQuery("SELECT COUNT(*) FROM sqlite_master WHERE "
                + "name NOT LIKE 'flyway_schema_history%' AND name NOT LIKE 'sqlite_autoindex_flyway%'")) {
            return r.next() && r.getInt(1) == 0;
        }
    }

    /** A copy of a workbook of an older version, brought up to date; empty when the file is of this one. */
    static Optional<Path> upToDateCopy(Path file) throws IOException, SQLException {
        try (Connection c = WorkbookFile.connect(file, true)) {
            if (pragma(c, "user_version") == VERSION || pragma(c, "user_version") == 0) {
                return Optional.empty();
            }
            Path copy = Files.createTempDirectory("nariz").resolve(String.valueOf(file.getFileName()));
            vacuumInto(c, copy);
            bringUpToDate(copy);
            return Optional.of(copy);
        }
    }

    static int pragma(Connection c, String name) throws SQLException {
        try (Statement s = c.createStatement(); ResultSet r = s.executeQuery("PRAGMA " + name)) {
            return r.next() ? r.getInt(1) : 0;
        }
    }

    static void bringUpToDate(Path file) throws IOException, SQLException {
        if (!Files.exists(file) || Files.size(file) == 0) {
            begin(file);
        }
        bringUpToDate(file, VERSION, "classpath:nariz/workbook/migrations");
    }

    /**
     * A new workbook by the same scripts in one transaction: the library that brings older ones up to date takes two
     * seconds of processor time to start, and takes a file without its own list from the version that stands in it.
     */
    private static void begin(Path file) throws IOException, SQLException {
        try (Connection c = WorkbookFile.connect(file, false); Statement s = c.createStatement()) {
            c.setAutoCommit(false);
            for (String script : SCRIPTS) {
                try (var in = Objects.requireNonNull(Migrations.class.getResourceAsStream("migrations/" + script),
                        script)) {
                    // Takes a whole script at once.
                    s.executeUpdate(new String(in.readAllBytes(), StandardCharsets.UTF_8));
                }
            }
            c.commit();
        }
    }

    static void bringUpToDate(Path file, int to, String... scripts) throws IOException, SQLException {
        int version = 0;
        if (Files.exists(file) && Files.size(file) > 0) {
            try (Connection c = WorkbookFile.connect(file, false)) {
                version = pragma(c, "user_version");
                if (version == to) {
                    return;
                }
                if (version > 0) {
                    setAside(c, file, version, to);
                }
            }
        }
        migrate(file, version, scripts);
    }

    /** A whole copy, made by the database itself, so that nothing in its log is missed. */
    private static void setAside(Connection c, Path file, int version, int to) throws SQLException, IOException {
        Path copy = file.resolveSibling(file.getFileName() + ".before-" + to + "-was-" + version);
        Files.deleteIfExists(copy);
        vacuumInto(c, copy);
    }

    private static void vacuumInto(Connection c, Path copy) throws SQLException {
        try (var s = c.prepareStatement("VACUUM INTO ?")) {
            s.setString(1, copy.toString());
            s.execute();
        }
    }

    private static void migrate(Path file, int version, String... scripts) {
        MigrateResult done = Flyway.configure(Migrations.class.getClassLoader())
                .dataSource(WorkbookFile.source(file, false)).locations(scripts)
                .loggers("slf4j").sqlMigrationPrefix("V").baselineOnMigrate(version > 0)
                .baselineVersion(String.valueOf(Math.max(1, version))).load().migrate();
        if (!done.success) {
            throw new IllegalStateException("the workbook could not be brought up to date");
        }
    }
}
