package dev.mockbell.desktop.view.traffic;

import dev.mockbell.desktop.model.TapsModel;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.problem.Problem;
import dev.mockbell.tap.TapPlan;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.TextField;

/** Asks where a tap is to lead, or where a forward proxy is to listen. */
final class TapForm {
    private TapForm() {}

    static void tap(Node within, TapsModel model) {
        model.freePort(TapPlan.USUAL_PORT, free -> tap(within, model, free));
    }

    static void proxy(Node within, TapsModel model) {
        model.freePort(TapPlan.USUAL_PROXY_PORT, free -> proxy(within, model, free));
    }

    private static void tap(Node within, TapsModel model, int free) {
        Form form = new Form();
        form.note(
                "A tap passes everything on to an endpoint and records it. Clients call the tap in its place; a contract"
                        + " that they read through it leads through it.");
        ComboBox<String> target = new ComboBox<>();
        target.setEditable(true);
        target.setId("tap-target");
        target.setPrefWidth(430);
        target.getItems().setAll(model.endpoints());
        target.getEditor().setPromptText("https://huts.example/stay");
        model.endpoints().stream().findFirst().ifPresent(target::setValue);
        form.row("Leads to", target);
        TextField port = port("tap-port", free);
        form.row("Listens on port", port);
        CheckBox tls = new CheckBox("by TLS, with a certificate of the project’s own authority");
        tls.setId("tap-tls");
        form.row("Clients call", tls);
        Asking.ask(
                within,
                "Tap an endpoint",
                form,
                "tap",
                "Start",
                () -> TapPlan.to(TapPlan.target(target.getEditor().getText()), number(port.getText()))
                        .withTls(tls.isSelected()),
                model::start);
    }

    private static void proxy(Node within, TapsModel model, int free) {
        Form form = new Form();
        form.note(
                "A forward proxy records what any client sends through it, wherever that goes. What goes by https passes"
                        + " unseen, as a tunnel, unless it is opened.");
        TextField port = port("proxy-port", free);
        form.row("Listens on port", port);
        CheckBox opens = new CheckBox("look into https as well");
        opens.setId("proxy-opens");
        form.row("Tunnels", opens);
        form.note(
                "To look into https, the client is given certificates of this project’s own authority, and must trust it:"
                        + " copy the certificate from the row of the proxy and add it to what that client trusts. Whoever has this"
                        + " machine’s key can then read what such a client sends anywhere. Take the certificate out of the client"
                        + " again when you are done. What services present is still verified.");
        Asking.ask(
                within,
                "Forward proxy",
                form,
                "proxy",
                "Start",
                () -> TapPlan.proxy(number(port.getText())).opening(opens.isSelected()),
                model::start);
    }

    private static TextField port(String id, int free) {
        TextField field = Form.field(id, String.valueOf(free), "any free one");
        field.setMaxWidth(120);
        return field;
    }

    private static int number(String text) {
        String typed = text.strip();
        if (typed.isEmpty()) {
            return 0;
        }
        if (!typed.matches("[0-9]{1,5}") || Integer.parseInt(typed) > 65_535) {
            throw Problem.input("“" + typed + "” is no port", null, "Give a number up to 65535, or nothing for any.");
        }
        return Integer.parseInt(typed);
    }
}
