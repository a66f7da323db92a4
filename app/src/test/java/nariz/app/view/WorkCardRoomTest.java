package nariz.app.view;

import static nariz.app.words.WindowWords.say;
import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.layout.Pane;
import javafx.scene.layout.VBox;
import nariz.app.state.Stop;
import nariz.app.state.Stops;
import nariz.carburetor.BuildSheet;
import nariz.carburetor.BuildSheetReader;
import nariz.diagnosis.Change;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import nariz.sim.DriveScript;
import nariz.sim.EngineSimulator;
import org.testng.annotations.Test;

/** What one acts on is read without scrolling: the first change of ten drives, whole or twenty lines of it. */
public class WorkCardRoomTest extends FreshWindow {
    private static final String[][] FITTED = {{"", ""}, {"61 thou", "66 thou"}, {"61 thou", "57 thou"}, {"37 thou",
            "31 thou"}, {"3.5 inHg", "8.5 inHg"}, {"74 thou", "66 thou"}, {"28 thou\"\n", "38 thou\"\n"}, {"37 thou",
            "41 thou"}, {"78 thou", "56 thou"}, {"74 thou", "82 thou"}};
    private static final int LINES = 20;
    private static final int LINES_SMALL = 13;
    private static final double NINE_IN_TEN = 0.9;

    private record Room(String drive, boolean whole, int lines) {
    }

    @Test
    public void firstChangeIsReadWithoutScrolling() throws IOException {
        List<Room> usual = new ArrayList<>();
        List<Room> small = new ArrayList<>();
        for (int k = 0; k < FITTED.length; k++) {
            Optional<Change> first = open(k);
            if (first.isPresent()) {
                Stop stop = Stops.of(session.driveProperty().get().sheet().carburetor().family()).stream().filter(s ->
                        s.holds(first.get().circuit())).findFirst().orElseThrow();
                Hands.run(() -> session.goTo(stop));
                usual.add(room(k, 1280, 800));
                small.add(room(k, 1024, 700));
            }
        }
        assertThat(usual).hasSizeGreaterThan(6);
        assertThat(usual).allSatisfy(r -> assertThat(r.whole() || r.lines() >= LINES).as(r.toString()).isTrue());
        assertThat(usual.stream().filter(Room::whole).count()).as(usual.toString()).isGreaterThanOrEqualTo(Math.round(
                NINE_IN_TEN * usual.size()));
        assertThat(small).allSatisfy(r -> assertThat(r.whole() || r.lines() >= LINES_SMALL).as(r.toString()).isTrue());
    }

    private Optional<Change> open(int k) throws IOException {
        BuildSheet sheet = BuildSheetReader.parse("car", DemoDrive.sheetJson().replace(FITTED[k][0], FITTED[k][1]));
        Path json = folder.resolve("room-" + k + ".json");
        Path csv = folder.resolve("room-" + k + ".csv");
        Files.writeString(json, DemoDrive.sheetJson().replace(FITTED[k][0], FITTED[k][1]));
        LogWriter.write(new EngineSimulator(sheet, 700 + k, Map.of(), k).drive(DriveScript.twelveMinutes(), 10, "room")
                .log(), csv);
        Hands.run(() -> session.open().files(json, csv));
        String name = csv.getFileName().toString();
        Hands.waitFor("the drive", () -> session.driveProperty().get() != null && session.driveProperty().get().log()
                .name().equals(name));
        Hands.settle();
        return session.driveProperty().get().analysis().advice().changes().stream().filter(Change::now).findFirst();
    }

    private Room room(int k, double width, double height) {
        Hands.run(() -> {
            stage.setWidth(width);
            stage.setHeight(height);
        });
        Hands.settle();
        return Hands.onInterface(() -> {
            ScrollPane scroll = (ScrollPane) window.lookup("#work-card-scroll");
            double bottom = scroll.localToScene(scroll.getBoundsInLocal()).getMaxY();
            int lines = 0;
            for (Node n : ((VBox) scroll.getContent()).getChildren()) {
                Node last = n instanceof Pane row ? row.getChildren().get(row.getChildren().size() - 1) : n;
                if (!(last instanceof Label words)) {
                    continue;
                }
                Bounds b = words.localToScene(words.getBoundsInLocal());
                boolean shown = b.getMaxY() <= bottom + 1;
                lines += shown ? (int) Math.max(1, Math.round(b.getHeight() / (words.getFont().getSize() * 1.55))) : 0;
                if (n instanceof Pane row && row.getChildren().getFirst() instanceof Label title && title.getText()
                        .equals(say("work-card-panel.proved-by"))) {
                    return new Room("drive " + k + " at " + (int) width, shown, lines);
                }
            }
            return new Room("drive " + k + " without a proof", false, 0);
        });
    }
}
