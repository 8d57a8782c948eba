package dev.mockbell.desktop.view.call;

import dev.mockbell.contract.Port;
import dev.mockbell.contract.Transport;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.MessageModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.model.OperationPlace;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.desktop.view.shared.Overlay;
import dev.mockbell.desktop.view.shared.StationView;
import dev.mockbell.suite.Case;
import java.util.List;
import java.util.Optional;
import javafx.beans.InvalidationListener;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.Label;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Request, hinge, response, checks. */
public final class CallView extends VBox implements StationView {
    private static final String IN_USE_VIEW = "call.column";
    private static final double IN_USE = 90;
    private static final double SIDE = 206;

    /** Where its faces and its title have room. */
    private static final double NARROWEST_REQUEST = 392;

    private static final double SIDE_WIDE = 280;

    private final CallModel model;
    private final Desk desk;
    private final HBox head = new HBox();
    private final CaseBar cases;
    private final RequestPane request;
    private final ResponsePane response;
    private final ChecksPane side;
    private final InsidePane inside;
    private final ComparePane compared;
    private final FoldedRequest folded;
    private final HBox columns = new HBox(4);
    private VBox right;
    private Region inUse;
    private final EndpointField endpoint;

    public CallView(Models models) {
        this.model = models.call();
        this.desk = models.desk();
        this.endpoint = new EndpointField(model, models.taps()::tap);
        this.cases = new CaseBar(this, model, desk);
        this.request = new RequestPane(model, desk.views(), words -> desk.tell(Notice.bad(words)), cases::mend);
        this.response = new ResponsePane(models, endpoint::edit, this::sayWhoCalls);
        this.inside = new InsidePane(model.inside());
        this.compared = new ComparePane(model, response::reveal);
        this.folded = new FoldedRequest(model, this::unfold);
        this.side = new ChecksPane(model, desk, response::pointed);
        setId("call-station");
        getStyleClass().add("station");
        build();
        model.currentProperty().addListener((InvalidationListener) o -> showCase());
        model.calledProperty().addListener((InvalidationListener) o -> {
            side.show();
            cases.show();
        });
        desk.projectProperty().addListener((InvalidationListener) o -> showHead());
        model.earlier().changesProperty().addListener((InvalidationListener) o -> cases.show());
        model.actions().misfits().addListener((InvalidationListener) o -> cases.show());
        showCase();
    }

    @Override
    public Parent node() {
        return this;
    }

    @Override
    public void act() {
        model.sendOrStop();
    }

    @Override
    public String acts() {
        return "send, or stop waiting";
    }

    @Override
    public boolean find() {
        return response.hasKeyboard() ? response.find() : request.find();
    }

    @Override
    public List<Runnable> practice() {
        return response.practice();
    }

    @Override
    public boolean explain() {
        return request.explain();
    }

    @Override
    public boolean undo(boolean redo, boolean typing) {
        // a field beside the message has a history of its own
        if (typing && !request.isInValue()) {
            return false;
        }
        MessageModel edited = request.edited();
        return redo ? edited.redo() : edited.undo();
    }

    /** The cases' own bar, for what is done with them from elsewhere. */
    public CaseBar cases() {
        return cases;
    }

    private void build() {
        head.getStyleClass().add("station-head");
        head.setSpacing(16);
        for (Region column : List.of(request, response)) {
            column.setMinWidth(column == request ? NARROWEST_REQUEST : 280);
            column.setPrefWidth(300);
            HBox.setHgrow(column, Priority.ALWAYS);
        }
        inUse = "response".equals(desk.views().get(IN_USE_VIEW)) ? response : request;
        widenInUse();
        ScrollPane scroll = new ScrollPane(new VBox(side, compared));
        scroll.setFitToWidth(true);
        right = Parts.panel(Parts.tall(inside), Parts.tall(scroll));
        inside.managedProperty().bind(inside.visibleProperty());
        inside.visibleProperty().bind(model.inside().openedProperty().isNotNull());
        model.inside().openedProperty().addListener((InvalidationListener) o -> widenRight());
        model.compared().changesProperty().addListener((InvalidationListener) o -> widenRight());
        model.calledProperty().addListener((InvalidationListener) o -> widenRight());
        response.faceProperty().addListener((InvalidationListener)
                o -> fold(response.faceProperty().get().equals(Face.TABLE)));
        widenRight();
        columns.getChildren().addAll(request, new Hinge(model), response, gap(), right);
        VBox.setVgrow(columns, Priority.ALWAYS);
        getChildren().addAll(head, cases, columns);
    }

    /** What a value holds and what differs need more room than checks do. */
    private void widenRight() {
        boolean wide = isWide();
        share();
        right.setMinWidth(wide ? SIDE_WIDE : SIDE);
        right.setMaxWidth(wide ? SIDE_WIDE : SIDE);
    }

    /** The column that is worked in gets more of the room; beside a wide one at the right the answer gets what there is. */
    private void share() {
        boolean wide = isWide();
        request.setPrefWidth(wide ? NARROWEST_REQUEST : 300 + (inUse == request ? IN_USE : 0));
        response.setPrefWidth(wide ? NARROWEST_REQUEST + IN_USE : 300 + (inUse == response ? IN_USE : 0));
    }

    private boolean isWide() {
        return model.inside().openedProperty().get() != null
                || model.compared().baseline().isPresent()
                || model.compared().otherTitle().isPresent();
    }

    /** A table gets the room of the request, which is told in brief until it is wanted. */
    private void fold(boolean fold) {
        Region first = fold ? folded : request;
        if (columns.getChildren().get(0) != first) {
            columns.getChildren().set(0, first);
            folded.show();
        }
    }

    private void sayWhoCalls() {
        fold(false);
        request.show(Face.SECURITY);
    }

    private void unfold() {
        fold(false);
        request.requestFocus();
    }

    /** The column that is worked in gets more of the room. */
    private void widenInUse() {
        sceneProperty().addListener((o, was, scene) -> {
            if (scene != null) {
                scene.focusOwnerProperty().addListener((x, before, now) -> {
                    for (Node n = now; n != null; n = n.getParent()) {
                        if (n == request || n == response) {
                            inUse = (Region) n;
                            desk.views().put(IN_USE_VIEW, inUse == response ? "response" : "request");
                            share();
                        }
                    }
                });
            }
        });
    }

    private static Region gap() {
        Region region = new Region();
        region.setMinWidth(2);
        return region;
    }

    private Case current() {
        return model.currentProperty().get();
    }

    void ask(String words, String proposal, java.util.function.Consumer<String> then) {
        if (current() == null) {
            return;
        }
        TextField field = new TextField(proposal);
        field.setId("ask-name");
        Runnable done = () -> {
            if (!field.getText().isBlank()) {
                Overlay.close(this);
                then.accept(field.getText().strip());
            }
        };
        field.setOnAction(e -> done.run());
        VBox box = new VBox(10, Parts.text(words, "strong"), field, Parts.button("Keep", "Enter", done, "primary"));
        Overlay.show(this, box, 420);
        field.selectAll();
    }

    private void showHead() {
        head.getChildren().clear();
        OperationPlace place = desk.placeProperty().get();
        if (place == null || current() == null) {
            head.getChildren().add(Parts.text("Nothing to call yet: add a contract first.", "second"));
            return;
        }
        Optional<Port> port = model.bound().map(b -> b.port());
        Label quiet = Parts.text(
                place.contract().title() + " · port " + port.map(Port::name).orElse(""), "third", "small");
        Label name = Parts.text(place.key(), "title");
        VBox title = new VBox(quiet, name);
        title.setMinWidth(Region.USE_PREF_SIZE);
        HBox ports = Parts.segments(place.ports(), p -> portTitle(place, p), port.orElse(null), model::usePort);
        ports.getStyleClass().add("boxed-segments");
        endpoint.show();
        Label goes = Parts.text("goes to", "third");
        goes.setMinWidth(Region.USE_PREF_SIZE);
        HBox.setHgrow(endpoint, Priority.ALWAYS);
        head.getChildren().addAll(title, ports, goes, endpoint);
    }

    private static String portTitle(OperationPlace place, Port port) {
        String title = carried(port);
        long same = place.ports().stream().filter(p -> carried(p).equals(title)).count();
        return same > 1 ? title + " " + port.name() : title;
    }

    /** {@code SOAP 1.1}, {@code SOAP 1.1 JMS}; a transport that is not known is told of with the operation. */
    private static String carried(Port port) {
        String version = port.binding().protocol().title();
        Transport transport = port.binding().transport();
        return transport.kind() == Transport.Kind.OTHER ? version + " " + transport.name() : version;
    }

    private void showCase() {
        showHead();
        cases.show();
        side.show();
        request.show();
        folded.show();
        response.refresh();
        widenRight();
    }
}
