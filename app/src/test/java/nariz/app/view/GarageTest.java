package nariz.app.view;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBoxBase;
import javafx.scene.control.Label;
import javafx.scene.control.ListView;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.Slider;
import javafx.scene.control.TextField;
import javafx.scene.control.ToggleButton;
import javafx.scene.input.KeyCode;
import nariz.app.state.Car;
import nariz.app.state.Settings;
import nariz.app.state.Stops;
import nariz.carburetor.BuildSheet;
import nariz.diagnosis.Change;
import nariz.family.metered.MeteredParts;
import nariz.log.LogWriter;
import nariz.sim.DemoDrive;
import org.testng.annotations.Test;

/** Journeys that each begin with a fresh window and an empty garage. */
public class GarageTest extends FreshWindow {
    private void demo() {
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.driveProperty().get() != null);
        Hands.waitFor("the tour", () -> window.lookup("#tour").isVisible());
        Hands.run(() -> ((Button) window.lookup("#tour-skip")).fire());
        Hands.settle();
    }

    private String text(String id) {
        return Hands.onInterface(() -> ((Label) window.lookup("#" + id)).getText());
    }

    private static void collect(Node n, List<Node> out) {
        if (n.isVisible()) {
            out.add(n);
            if (n instanceof Parent p) {
                p.getChildrenUnmodifiable().forEach(c -> collect(c, out));
            }
        }
    }

    private List<Node> visible(Node below) {
        List<Node> out = new ArrayList<>();
        collect(below, out);
        return out;
    }

    @Test
    public void somebodyNewIsShownRoundOnceAndNeverAgainUnasked() throws IOException {
        hands.choose("demo");
        Hands.waitFor("the tour", () -> window.lookup("#tour").isVisible());
        List<String> said = new ArrayList<>();
        for (int i = 0; i < 5; i++) {
            Hands.settle();
            said.add(text("tour-text"));
            hands.click("tour-next");
        }
        assertThat(said).doesNotHaveDuplicates().allMatch(s -> s.endsWith("."));
        assertThat(Hands.onInterface(() -> window.lookup("#tour").isVisible())).isFalse();
        assertThat(Files.readString(folder.resolve("window.properties"))).contains("toured = true");
        Hands.run(() -> {
            MainWindow next = new MainWindow(session, (o, t, p) -> Optional.empty(), Settings.of(folder.resolve(
                    "window.properties")));
            stage.getScene().setRoot(next);
            window = next;
        });
        hands.choose("demo");
        Hands.waitFor("the demo", () -> session.busyProperty().get().isEmpty());
        Hands.settle();
        assertThat(Hands.onInterface(() -> window.lookup("#tour").isVisible())).isFalse();
        hands.choose("tour");
        assertThat(Hands.onInterface(() -> window.lookup("#tour").isVisible())).isTrue();
        hands.press(KeyCode.ESCAPE);
        assertThat(Hands.onInterface(() -> window.lookup("#tour").isVisible())).isFalse();
    }

    /** From nothing to a tune that is fitted, without a file dialog for the sheet and without editing a file. */
    @Test
    public void carIsBegunReadFittedAndReadAgain() throws IOException {
        Path first = folder.resolve("first.csv");
        LogWriter.write(DemoDrive.drive().log(), first);
        hands.press(KeyCode.O);
        assertThat(Hands.onInterface(() -> ((TextField) window.lookup("#open-sheet")).getText())).as("the letter that "
                + "led here is not typed").isEmpty();
        assertThat(text("garage-empty")).startsWith("No car is kept here yet.");
        assertThat(Hands.onInterface(() -> window.lookup("#path-none").isVisible())).isTrue();
        hands.click("garage-first");
        assertThat(Hands.onInterface(() -> window.lookup("#sheet-panel").isVisible())).isTrue();
        assertThat(Hands.onInterface(() -> ((TextField) window.lookup("#sheet-engine-cylinders")).getPromptText()))
                .isEqualTo("needed");
        Hands.run(() -> ((Button) window.lookup("#sheet-example")).fire());
        Hands.settle();
        hands.click("sheet-keep");
        Hands.waitFor("the car", () -> session.garage().carsProperty().get().size() == 1);
        Hands.settle();
        Car car = session.garage().carsProperty().get().getFirst();
        assertThat(car.state()).isEqualTo("not driven yet");
        assertThat(car.next()).isEqualTo("Next: record a drive");
        assertThat(Hands.onInterface(() -> window.lookup("#car-log").isFocused())).as("its log is next").isTrue();
        assertThat(Hands.onInterface(() -> window.lookup("#car-last").isDisabled())).isTrue();
        picked[0] = first;
        hands.click("car-log");
        Hands.waitFor("the drive", () -> session.driveProperty().get() != null && session.busyProperty().get()
                .isEmpty());
        Hands.waitFor("its place in the logbook", () -> session.garage().carOf(session.driveProperty().get())
                .isPresent());
        hands.hover("car-name", 0.5, 0.5);
        Hands.waitFor("the file to drag out", () -> ((Label) window.lookup("#car-name")).getTooltip() != null);
        assertThat(Hands.onInterface(() -> ((Label) window.lookup("#car-name")).getTooltip().getText())).endsWith(
                "first.csv");
        Change c = session.driveProperty().get().analysis().advice().changes().getFirst();
        assertThat(c.part()).isEqualTo(MeteredParts.IDLE_FEED_RESTRICTION);
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        Hands.settle();
        assertThat(Hands.onInterface(() -> ((Button) window.lookup("#card-fitted")).getText())).isEqualTo(
                "Fitted: 34 thou");
        picked[0] = folder.resolve("card.pdf");
        Hands.run(() -> ((Button) window.lookup("#card-print")).fire());
        Hands.waitFor("the card on paper", () -> window.lookup("#card-written") != null);
        assertThat(text("card-written")).isEqualTo("Written: card.pdf");
        assertThat(picked[0]).exists();
        hands.click("card-fitted");
        Hands.waitFor("the sheet", () -> !session.garage().carsProperty().get().getFirst().fittedSince().isEmpty());
        Hands.settle();
        assertThat(Hands.onInterface(() -> window.lookup("#card-fitted"))).isNull();
        car = session.garage().carsProperty().get().getFirst();
        assertThat(car.state()).contains("37 thou to 34 thou");
        assertThat(car.next()).startsWith("Next: the same road again");
        BuildSheet now = nariz.carburetor.BuildSheetReader.parse("car", car.sheet().json());
        Path second = folder.resolve("second.csv");
        LogWriter.write(DemoDrive.again(now, 1).log(), second);
        // Dropped on the window: the car is chosen already.
        Hands.run(() -> {
            window.showOpen(true);
            ((TextField) window.lookup("#open-log")).setText(second.toString());
        });
        Hands.run(() -> session.open().files(session.garage().carsProperty().get().getFirst(), second));
        Hands.waitFor("the second drive", () -> session.driveProperty().get().log().name().equals("second.csv"));
        assertThat(MeteredParts.IDLE_FEED_RESTRICTION.of(session.driveProperty().get().sheet().carburetor(),
                nariz.carburetor.Stage.PRIMARY)).isEqualTo(34.0);
        Hands.waitFor("the logbook", () -> session.garage().carsProperty().get().getFirst().logbook().size() == 3);
        Hands.run(() -> window.showOpen(true));
        Hands.settle();
        assertThat(Hands.onInterface(() -> ((ListView<?>) window.lookup("#open-kept")).getItems().stream().map(
                Object::toString).toList())).hasSize(3).anyMatch(l -> l.contains("fitted: primary idle feed"));
        // And off again.
        hands.click("kept-undo");
        Hands.waitFor("the sheet of before", () -> session.garage().carsProperty().get().getFirst().sheet().json()
                .contains("37 thou"));
    }

    @Test
    public void noKeyDoesTwoThingsAndEveryMenuItemIsAnAction() throws IOException {
        demo();
        List<Action> all = Hands.onInterface(() -> window.actions().all());
        for (int i = 0; i < all.size(); i++) {
            for (int j = 0; j < i; j++) {
                Action a = all.get(i);
                Action b = all.get(j);
                boolean together = a.where().isEmpty() || b.where().isEmpty() || a.where().equals(b.where());
                if (together && !b.keys().isEmpty()) {
                    assertThat(a.keys()).as(a.id() + " and " + b.id()).doesNotContainAnyElementsOf(b.keys());
                }
            }
        }
        assertThat(all).extracting(Action::id).doesNotHaveDuplicates();
        for (Actions.Menu m : Actions.Menu.values()) {
            m.ids().stream().filter(id -> !id.equals("-")).forEach(id -> assertThat(window.actions().of(id)).as(id)
                    .isPresent());
        }
        Path card = folder.resolve("keys.pdf");
        picked[0] = card;
        hands.choose("print-keys");
        Hands.waitFor("the card", () -> session.busyProperty().get().isEmpty() && Files.exists(card));
        try (var pdf = org.apache.pdfbox.Loader.loadPDF(card.toFile())) {
            String words = new org.apache.pdfbox.text.PDFTextStripper().getText(pdf).replaceAll("\\s+", " ");
            for (Action a : all) {
                if (!a.keys().isEmpty()) {
                    assertThat(words).contains(a.title().replaceAll("\\s+", " ") + ": " + a.key());
                }
            }
        }
    }

    /** Lines of a column of labels that lie wholly above a height. */
    private static long lines(Node content, double above) {
        List<Node> all = new ArrayList<>();
        collect(content, all);
        return Math.round(all.stream().filter(Label.class::isInstance).map(Label.class::cast).filter(l -> {
            Bounds b = content.sceneToLocal(l.localToScene(l.getBoundsInLocal()));
            return b.getMaxY() <= above && l.getText().length() > 1;
        }).mapToDouble(l -> Math.max(1, Math.rint(l.getHeight() / (1.3 * l.getFont().getSize())))).sum());
    }

    @Test
    public void whatOneActsOnHasTheRoom() {
        demo();
        for (double[] size : new double[][] {{1280, 800, 20, 6}, {1024, 700, 13, 4}}) {
            Hands.run(() -> {
                stage.setWidth(size[0]);
                stage.setHeight(size[1]);
                session.goTo(Stops.TRANSFER);
                window.actions().of("side-card").orElseThrow().run().run();
            });
            Hands.settle();
            long lines = Hands.onInterface(() -> {
                ScrollPane s = (ScrollPane) window.lookup("#work-card-scroll");
                return s.getContent().getBoundsInLocal().getHeight() <= s.getViewportBounds().getHeight() ? 99
                        : lines(s.getContent(), s.getViewportBounds().getHeight());
            });
            assertThat(lines).as("lines of the card at %.0f x %.0f", size[0], size[1]).isGreaterThanOrEqualTo((long)
                    size[2]);
            hands.choose("side-try");
            long sizes = Hands.onInterface(() -> {
                ScrollPane s = (ScrollPane) window.lookup("#try-panel");
                return visible(s.getContent()).stream().filter(Slider.class::isInstance).filter(n -> s.getContent()
                        .sceneToLocal(n.localToScene(n.getBoundsInLocal())).getMaxY() <= s.getViewportBounds()
                        .getHeight()).count();
            });
            assertThat(sizes).as("sizes at %.0f x %.0f", size[0], size[1]).isGreaterThanOrEqualTo((long) size[3]);
            assertThat(Hands.onInterface(() -> window.lookup("#effect").isVisible())).isTrue();
            hands.choose("side-plan");
            assertThat(Hands.onInterface(() -> window.lookup("#effect").isVisible())).isFalse();
            if (size[0] > 1200) {
                assertThat(Hands.onInterface(() -> {
                    ScrollPane s = (ScrollPane) window.lookup("#plan-panel");
                    return s.getContent().getBoundsInLocal().getHeight() <= s.getViewportBounds().getHeight() + 1;
                })).as("the whole list to record").isTrue();
            }
            hands.choose("side-card");
            hands.press(KeyCode.G);
            assertThat(Hands.onInterface(() -> window.lookup("#effect").isVisible())).isFalse();
            hands.press(KeyCode.G);
        }
    }

    @Test
    public void whatIsPressedIsAsHighAsAFinger() {
        demo();
        hands.choose("open");
        List<String> small = Hands.onInterface(() -> visible(window).stream().filter(n -> n instanceof Button
                || n instanceof ToggleButton || n instanceof CheckBox || n instanceof Slider || n instanceof TextField
                || n instanceof ComboBoxBase<?>).filter(n -> n.localToScene(n.getBoundsInLocal()).getHeight() < 35.5)
                .map(n -> n.getId() + " " + n.getClass().getSimpleName() + " " + n.localToScene(n.getBoundsInLocal())
                .getHeight()).toList());
        assertThat(small).isEmpty();
    }

    @Test
    public void markUnderThePointerIsSaidInWords() {
        demo();
        Hands.run(() -> session.goTo(Stops.TRANSFER));
        Hands.settle();
        String usual = Hands.onInterface(() -> window.lookup("#plane").getAccessibleHelp());
        String said = usual;
        for (int i = 0; i < 12 && said.equals(usual); i++) {
            hands.hover("plane", 0.2 + 0.05 * i, 0.62);
            said = Hands.onInterface(() -> window.lookup("#plane").getAccessibleHelp());
        }
        assertThat(said).matches("[0-9]+ rpm, [0-9.]+ inHg, [0-9]+ s\\. reads lambda .*wanted .*after the change: .*");
        hands.choose("plane-dwell");
        assertThat(Hands.onInterface(() -> ((javafx.scene.control.MenuButton) window.lookup("#plane-shows")).getText()))
                .isEqualTo("Time spent");
    }

    @Test
    public void guideOpensWhereOneIsAndFindsWords() {
        demo();
        hands.choose("side-try");
        hands.press(KeyCode.F1);
        assertThat(chosenSection()).isEqualTo("Try parts");
        Hands.run(() -> ((TextField) window.lookup("#guide-search")).setText("wall film"));
        Hands.settle();
        assertThat(chosenSection()).isEqualTo("Words");
        hands.click("guide-close");
        hands.choose("about");
        assertThat(chosenSection()).isEqualTo("About Nariz");
        assertThat(Hands.onInterface(() -> visible(window.lookup("#guide-page")).stream().filter(n -> n instanceof
                javafx.scene.text.Text).map(n -> ((javafx.scene.text.Text) n).getText()).toList())).contains("OpenJFX");
    }

    private String chosenSection() {
        return Hands.onInterface(() -> ((Guide.Section) ((ListView<?>) window.lookup("#guide-sections"))
                .getSelectionModel().getSelectedItem()).title());
    }

    @Test
    public void moreContrastReachesControlsAndPicturesAndIsKept() throws IOException {
        hands.choose("contrast");
        assertThat(Hands.onInterface(() -> window.getStyleClass().contains("contrast"))).isTrue();
        assertThat(Hands.onInterface(() -> ((nariz.app.chart.Picture) window.lookup("#plane")).paletteProperty().get()))
                .isEqualTo(nariz.app.theme.Palette.DAY.strong());
        hands.choose("night");
        assertThat(Hands.onInterface(() -> ((nariz.app.chart.Picture) window.lookup("#plane")).paletteProperty().get()))
                .isEqualTo(nariz.app.theme.Palette.NIGHT.strong());
        assertThat(Settings.of(folder.resolve("window.properties")).contrast()).contains(true);
        hands.choose("contrast");
        assertThat(Hands.onInterface(() -> window.getStyleClass().contains("contrast"))).isFalse();
    }

    @Test
    public void logIsARibbonAndGrowsWhenAskedAndStaysSo() throws IOException {
        demo();
        double low = Hands.onInterface(() -> window.lookup("#scrubber").getLayoutBounds().getHeight());
        hands.press(KeyCode.L);
        double high = Hands.onInterface(() -> window.lookup("#scrubber").getLayoutBounds().getHeight());
        assertThat(low).isLessThan(100);
        assertThat(high).isGreaterThan(1.8 * low);
        assertThat(Files.readString(folder.resolve("window.properties"))).contains("log-high = true");
    }
}
