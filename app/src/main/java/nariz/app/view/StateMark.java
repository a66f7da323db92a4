package nariz.app.view;

import javafx.scene.Node;
import javafx.scene.layout.StackPane;
import javafx.scene.shape.Circle;
import javafx.scene.shape.Line;
import javafx.scene.shape.Polygon;
import javafx.scene.shape.Polyline;
import javafx.scene.shape.Rectangle;
import nariz.diagnosis.Status;

/** The shape of a stop's state: every state has its own, so that colour is never needed to tell them apart. */
final class StateMark {
    private static final double R = 8;

    private StateMark() {
    }

    static Node of(Status s) {
        StackPane mark = new StackPane();
        mark.setMinSize(24, 24);
        mark.setPrefSize(24, 24);
        switch (s) {
            case OFF -> mark.getChildren().add(styled(new Polygon(0, -10, 10, 0, 0, 10, -10, 0), "mark-solid"));
            case SETTLED -> mark.getChildren().addAll(styled(new Circle(R), "mark-open"),
                    styled(new Polyline(-4, 0, -1, 4, 5, -4), "mark-line"));
            case IN_DOUBT -> {
                Rectangle half = new Rectangle(R, 2 * R);
                half.setTranslateX(-R / 2);
                mark.getChildren().addAll(styled(half, "mark-solid"), styled(new Rectangle(2 * R, 2 * R),
                        "mark-open"));
            }
            case WAITING -> {
                Circle c = new Circle(R);
                c.getStrokeDashArray().addAll(3.0, 3.0);
                mark.getChildren().addAll(styled(c, "mark-open"), styled(new Line(0, -4, 0, 0), "mark-line"));
            }
            case NOT_READ -> mark.getChildren().add(styled(new Circle(R - 2), "mark-faint"));
        }
        return mark;
    }

    private static Node styled(Node n, String style) {
        n.getStyleClass().add(style);
        return n;
    }
}
