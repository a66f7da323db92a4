package nariz.cli;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.InputProblem;
import nariz.carburetor.PartChange;
import nariz.diagnosis.Analysis;
import nariz.diagnosis.Prediction;
import nariz.diagnosis.PredictionJson;
import nariz.diagnosis.RegimePrediction;
import nariz.diagnosis.Strategy;
import nariz.log.DriveLog;
import nariz.text.Message;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz predict}: the mixture the same drive would show with other parts. */
@Command(name = "predict", mixinStandardHelpOptions = true,
        description = "Says what mixture the same drive would show with other parts.")
final class PredictCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @Mixin
    private DriveOptions on;

    @Mixin
    private OutputOptions result = new OutputOptions();

    @Option(names = "--change", required = true, paramLabel = "PART=VALUE", split = ",",
            description = "parts to try, for example main-jet=62,secondary.main-jet=74 (in thou, inHg or turns)")
    private List<String> changes = new ArrayList<>();

    @Override
    public Integer call() throws IOException {
        Optional<Strategy> targets = on.targets();
        on.checkPlace(result);
        BuildSheet sheet = on.sheet();
        List<PartChange> tried = new ArrayList<>();
        for (String c : changes) {
            tried.add(PartChange.parse(c, sheet).orElseThrow(() -> new ParameterException(spec.commandLine(),
                    "Cannot read the change '" + c + "': " + PartChange.reason(c, sheet))));
        }
        DriveLog drive = on.drive(sheet);
        Analysis a = Analysis.of(sheet, drive, targets.orElse(Strategy.of(sheet)));
        if (!a.estimated()) {
            throw new InputProblem(drive.name(), 0, 0, "", "too little steady running for a prediction",
                    Message.literal("Record at least 30 s at steady speeds and vacuums."));
        }
        Prediction p = Prediction.of(a, tried);
        if (on.json() != null) {
            result.write(on.json(), PredictionJson.write(p));
        }
        print(p);
        on.tell(drive, spec.commandLine().getOut());
        spec.commandLine().getOut().flush();
        return 0;
    }

    private void print(Prediction p) {
        var out = spec.commandLine().getOut();
        p.changes().forEach(c -> out.println(c.text()));
        out.println();
        out.println(String.format(Locale.ROOT, "%-14s %8s %8s %s", "regime", "target", "lambda",
                "with the change (90 % interval)"));
        for (RegimePrediction r : p.regimes()) {
            out.println(String.format(Locale.ROOT, "%-14s %8.2f %8.2f %.2f (%.2f to %.2f)",
                    r.before().regime().label(), r.before().target(), r.before().lambda(), r.after().lambda(), r.low(),
                    r.high()));
        }
        out.flush();
    }
}
