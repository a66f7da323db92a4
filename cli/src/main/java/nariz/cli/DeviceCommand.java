package nariz.cli;

import java.io.IOException;
import java.io.PrintWriter;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.concurrent.Callable;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.live.DeviceAddress;
import nariz.sim.Demo;
import nariz.sim.RunningEngine;
import nariz.sim.StandInDevice;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.ArgGroup;
import picocli.CommandLine.Command;
import picocli.CommandLine.Model.CommandSpec;
import picocli.CommandLine.Option;
import picocli.CommandLine.ParameterException;
import picocli.CommandLine.Spec;

/** {@code nariz device}: a stand-in for a data logger. */
@Command(name = "device", mixinStandardHelpOptions = true,
        description = "Prints the readings of a practice engine line by line (docs/formats/lines.md), as a data logger "
                + "would, over TCP on this machine or over a serial port.")
final class DeviceCommand implements Callable<Integer> {
    @Spec
    private CommandSpec spec;

    @ArgGroup(exclusive = true, multiplicity = "1")
    private Place place;

    /** Where it prints to. */
    private static final class Place {
        @Option(names = "--tcp", paramLabel = "PORT", description = "port of this machine's loopback; 0 takes a free "
                + "one")
        private @Nullable Integer tcp;

        @Option(names = "--serial", paramLabel = "NAME", description = "serial port, with @RATE where it is not 115200")
        private @Nullable String serial;
    }

    @Option(names = "--car", paramLabel = "NAME", defaultValue = "hillclimb-estate",
            description = "hillclimb-estate (default), kit-roadster or small-four")
    private String car;

    @Option(names = "--build", paramLabel = "FILE", description = "another car: its build sheet (JSON)")
    private @Nullable Path build;

    @Option(names = "--idle", description = "an engine that idles on the stand, in place of the demo's drive")
    private boolean idle;

    @Option(names = "--seed", paramLabel = "N", defaultValue = "1", description = "draws engine, noise and mishaps (1)")
    private long seed;

    @Option(names = "--hz", paramLabel = "N", defaultValue = "20", description = "lines a second, 1 to 200 (20); a "
            + "drive has its own 20")
    private double hz;

    @Option(names = "--speed", paramLabel = "X", defaultValue = "1", description = "times as fast as life, 0.1 to 1000 "
            + "(1)")
    private double speed;

    @Option(names = "--dropouts", paramLabel = "SHARE", defaultValue = "0", description = "lines that are lost (0)")
    private double dropouts;

    @Option(names = "--garbage", paramLabel = "SHARE", defaultValue = "0", description = "lines that are garbage (0)")
    private double garbage;

    @Option(names = "--sums", description = "with a checksum on every line")
    private boolean sums;

    @Option(names = "--no-clock", description = "without a column of time")
    private boolean noClock;

    @Option(names = "--for", paramLabel = "SECONDS", description = "how long; until it is stopped when left out")
    private @Nullable Double forS;

    @Override
    public Integer call() throws IOException {
        check("--hz", hz, 1, 200);
        check("--speed", speed, 0.1, 1000);
        check("--dropouts", dropouts, 0, 1);
        check("--garbage", garbage, 0, 1);
        StandInDevice.Manners m = new StandInDevice.Manners(idle ? hz : 20, speed, dropouts, garbage, sums, !noClock,
                seed);
        Demo demo = Demo.ofId(car).orElseThrow(() -> new ParameterException(spec.commandLine(), "found --car " + car
                + ". There are " + String.join(", ", Arrays.stream(Demo.values()).map(Demo::id).toList()) + "."));
        BuildSheet sheet = build == null ? demo.sheet() : BuildSheetReader.read(build);
        if (build != null && !idle) {
            throw new ParameterException(spec.commandLine(), "--build needs --idle: only the demos have a road.");
        }
        PrintWriter out = spec.commandLine().getOut();
        try (StandInDevice device = idle ? StandInDevice.on(new RunningEngine(sheet, seed, seed), m)
                : StandInDevice.on(demo.drive().log(), m)) {
            if (place.tcp != null) {
                check("--tcp", place.tcp, 0, 65_535);
                out.println("printing to " + device.listen(place.tcp).text());
            } else {
                DeviceAddress a = DeviceAddress.parse("serial:" + place.serial);
                device.print(a);
                out.println("printing to " + a.text());
            }
            out.flush();
            long until = forS == null ? Long.MAX_VALUE : System.nanoTime() + Math.round(forS * 1e9);
            while (System.nanoTime() < until) {
                Thread.sleep(50);
            }
            out.println(device.printed() + " lines");
        } catch (InterruptedException e) {
            Thread.currentThread().interrupt();
        }
        return 0;
    }

    private void check(String option, double value, double low, double high) {
        if (!(value >= low && value <= high)) {
            throw new ParameterException(spec.commandLine(), "found " + option + " " + value + ", not between " + low
                    + " and " + high + ".");
        }
    }
}
