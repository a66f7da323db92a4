package nariz.cli;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import nariz.exam.ModelPictures;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

/** {@code nariz model-pictures}: redraws the pictures of docs/model.md. */
@Command(name = "model-pictures", mixinStandardHelpOptions = true, hidden = true,
        description = "Draws the pictures of docs/model.md from the demo car (SVG).")
final class PicturesCommand implements Callable<Integer> {
    @Option(names = "--out", paramLabel = "FOLDER", required = true, description = "folder for the pictures")
    private Path out;

    @Override
    public Integer call() throws IOException {
        Files.createDirectories(out);
        for (Map.Entry<String, String> e : ModelPictures.all().entrySet()) {
            OutputOptions.replace(out.resolve(e.getKey()), e.getValue());
        }
        return 0;
    }
}
