package nariz.cli;

import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.KitReader;
import nariz.carburetor.NeedleChart;
import nariz.diagnosis.AdviceJson;
import nariz.diagnosis.AdviceText;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Hypothesis;
import nariz.diagnosis.NeedleProfile;
import nariz.diagnosis.PreviousReader;
import nariz.diagnosis.Request;
import nariz.diagnosis.Strategy;
import nariz.log.DriveLog;
import nariz.units.Units;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz analyze}: a build sheet and a log in, a verdict out. */
@Command(name = "analyze", mixinStandardHelpOptions = true,
        description = "Says which circuit a log blames and which part to change.")
final class AnalyzeCommand implements Callable<Integer> {
    private static final int NEAREST = 3;

    @Spec
    private CommandSpec spec;

    @Mixin
    private DriveOptions on;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Option(names = "--checked", paramLabel = "CAUSE", split = ",",
            description = "faults you have looked for and ruled out, for example vacuum-leak,exhaust-leak")
    private List<String> checked = new ArrayList<>();

    @Option(names = "--kit", paramLabel = "FILE", description = "sizes you have, can get or would drill (JSON)")
    private Path kit;

    @Option(names = "--previous", paramLabel = "FILE",
            description = "the advice before the last change (JSON): start from it and score its prediction")
    private Path previous;

    @Option(names = "--needles", paramLabel = "FILE",
            description = "your own table of needles (CSV): the nearest to the one wanted are named")
    private Path needles;

    @Override
    public Integer call() throws IOException {
        Optional<Strategy> targets = on.targets();
        checkCauses();
        on.checkPlace(result, kit, previous);
        Optional<NeedleChart> chart = Optional.ofNullable(needles).map(NeedleChart::read);
        BuildSheet sheet = on.sheet();
        DriveLog drive = on.drive(sheet);
        Request q = Request.of(sheet, drive, targets.orElse(Strategy.of(sheet))).withRuledOut(checked);
        q = kit == null ? q : q.withKit(KitReader.read(kit));
        q = previous == null ? q : q.withPrevious(PreviousReader.read(previous));
        Analysis a = Analysis.of(q, () -> false);
        if (on.json() != null) {
            result.write(on.json(), AdviceJson.write(a.advice()));
        }
        spec.commandLine().getOut().print(AdviceText.write(a.advice()));
        a.advice().needle().ifPresent(n -> chart.ifPresent(c -> nearest(n, c)));
        on.tell(drive, spec.commandLine().getOut());
        spec.commandLine().getOut().flush();
        return 0;
    }

    private void nearest(NeedleProfile wanted, NeedleChart chart) {
        List<NeedleChart.Near> near = chart.nearest(wanted.diameters(), wanted.spacingM());
        for (NeedleChart.Near n : near.subList(0, Math.min(NEAREST, near.size()))) {
            spec.commandLine().getOut().printf(Locale.ROOT, "needle %s is off the wanted one by %.2f thou%n", n.needle()
                    .name(), n.offM() / Units.THOU);
        }
    }

    /** A misspelt cause must not pass for a check that was made. */
    private void checkCauses() {
        for (String c : checked) {
            if (!Hypothesis.LOOKED_FOR.contains(c)) {
                throw new ParameterException(spec.commandLine(), "Unknown cause '" + c + "'; use some of "
                        + String.join(", ", Hypothesis.LOOKED_FOR) + ".");
            }
        }
    }
}
