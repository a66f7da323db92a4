package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.function.DoubleConsumer;
import java.util.function.LongFunction;
import nariz.exam.Accuracy;
import nariz.exam.AlteredExam;
import nariz.exam.BalanceExam;
import nariz.exam.ComparisonStudy;
import nariz.exam.CornersExam;
import nariz.exam.DampersExam;
import nariz.exam.FaultsExam;
import nariz.exam.IdleExam;
import nariz.exam.OpeningsExam;
import nariz.exam.PracticeCase;
import nariz.exam.ReferenceDrive;
import nariz.exam.ReferenceReport;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz accuracy}: regenerates the tables of docs/accuracy.md. */
@Command(name = "accuracy", mixinStandardHelpOptions = true,
        description = "Analyses made-up engines with known errors and prints what came out (Markdown).")
final class AccuracyCommand implements Callable<Integer> {
    private static final String FOUR_BARRELS = "four-barrel";
    private static final String TWO_BARRELS = "block-metered-2";
    private static final String STRANGERS = "strangers";
    private static final String OPENINGS = "openings";
    private static final String DAMPERS = "dampers";
    private static final String OTHERS = "stack-jet, constant-depression, progressive-twin, single-venturi";

    @Spec
    private CommandSpec spec;

    @Option(names = "--first", paramLabel = "SEED", defaultValue = "1001", description = "first seed (1001)")
    private long first;

    @Option(names = "--count", paramLabel = "N", defaultValue = "10", description = "how many engines (10)")
    private int count;

    @Option(names = "--family", paramLabel = "KEY", defaultValue = FOUR_BARRELS,
            description = "engines with this family of carburetor: " + FOUR_BARRELS + " (both kinds in turn), "
                    + TWO_BARRELS + ", " + OTHERS + ", or "
                    + STRANGERS + ": four-barrels of other laws than the estimator's, or "
                    + OPENINGS + ": their accelerator pumps, or " + DAMPERS
                    + ": the dampers of constant-depression ones")
    private String family;

    @Option(names = "--usual-sizes",
            description = "with --family: engines that nobody has set up, with all that a form left blank assumes")
    private boolean usualSizes;

    @Option(names = "--reference", paramLabel = "FOLDER",
            description = "compare with drives of another simulator that lie in this folder instead")
    private Path reference;

    @Option(names = "--altered", paramLabel = "N", defaultValue = "0",
            description = "with --reference: put wrong parts into the sound engines there, N times each, in rounds")
    private int altered;

    @Option(names = "--faults", paramLabel = "N", defaultValue = "0",
            description = "with --reference: put faults into the sound engines there, N an engine, kinds in turn")
    private int faults;

    @Option(names = "--comparisons",
            description = "compare two drives of every engine instead of analysing one")
    private boolean comparisons;

    @Option(names = "--idle", description = "set the idle of every engine by every school instead of analysing a drive")
    private boolean idle;

    @Option(names = "--balance", description = "balance the carburetors of every engine that has several")
    private boolean balance;

    @Option(names = "--corners", description = "set unevenly turned idle screws: all together, then corner by corner")
    private boolean corners;

    @Option(names = "--without-mixture", description = "with --idle or --corners: by speed and vacuum alone")
    private boolean withoutMixture;

    @Override
    public Integer call() throws IOException {
        PrintWriter out = spec.commandLine().getOut();
        PrintWriter err = spec.commandLine().getErr();
        DoubleConsumer progress = done -> {
            err.printf("\r%3.0f %%", 100 * done);
            err.flush();
        };
        number("--altered", altered);
        number("--faults", faults);
        if (altered > 0 && faults > 0) {
            throw new ParameterException(spec.commandLine(), "found --altered and --faults together. They are two "
                    + "examinations: give one of them.");
        }
        if (usualSizes && (reference != null || idle || corners || balance || comparisons || List.of(STRANGERS,
                OPENINGS, DAMPERS).contains(family))) {
            throw new ParameterException(spec.commandLine(), "found --usual-sizes with another examination. It wants "
                    + "--family with one of " + FOUR_BARRELS + ", " + TWO_BARRELS + ", " + OTHERS + ".");
        }
        if (altered > 0 || faults > 0) {
            if (altered > 0) {
                AlteredExam.report(ReferenceDrive.all(reference), altered, first, out::println, progress);
            } else {
                FaultsExam.report(ReferenceDrive.all(reference), faults, first, out::println, progress);
            }
            err.println();
            out.flush();
            return 0;
        }
        if (reference != null) {
            ReferenceReport.write(ReferenceDrive.all(reference), out::println);
            out.flush();
            return 0;
        }
        if (idle) {
            out.println(IdleExam.of(first, count, !withoutMixture).markdown());
            out.flush();
            return 0;
        }
        if (corners) {
            out.println(CornersExam.of(first, count, !withoutMixture).markdown());
            out.flush();
            return 0;
        }
        if (balance) {
            out.println(BalanceExam.of(first, count).markdown());
            out.flush();
            return 0;
        }
        if (OPENINGS.equals(family)) {
            OpeningsExam.report(first, count, out::println, progress);
        } else if (DAMPERS.equals(family)) {
            DampersExam.report(first, count, out::println, progress);
        } else if (comparisons) {
            ComparisonStudy.report(first, count, out::println, progress);
        } else {
            Accuracy.report(papers(), first, count, out::println, progress);
        }
        err.println();
        out.flush();
        return 0;
    }

    private void number(String option, int cases) {
        if (cases < 0 || (cases > 0 && reference == null)) {
            throw new ParameterException(spec.commandLine(), "found " + option + " " + cases
                    + ". It wants a number of cases an engine, and --reference with the folder of the sound engines.");
        }
    }

    private LongFunction<PracticeCase> papers() {
        LongFunction<PracticeCase> setUp = setUpWell();
        String key = FOUR_BARRELS.equals(family) ? "block-metered-4" : family;
        return usualSizes ? seed -> PracticeCase.usualSizes(key, seed) : setUp;
    }

    private LongFunction<PracticeCase> setUpWell() {
        if (List.of(OTHERS.split(", ")).contains(family)) {
            return seed -> PracticeCase.ofFamily(family, seed);
        }
        return switch (family) {
            case FOUR_BARRELS -> PracticeCase::of;
            case TWO_BARRELS -> PracticeCase::twoBarrel;
            case STRANGERS -> PracticeCase::stranger;
            default -> throw new ParameterException(spec.commandLine(), "found --family " + family
                    + ". There are practice engines with " + FOUR_BARRELS + ", " + TWO_BARRELS + ", " + OTHERS
                    + ", " + STRANGERS + ", " + OPENINGS + " and " + DAMPERS + ".");
        };
    }
}
