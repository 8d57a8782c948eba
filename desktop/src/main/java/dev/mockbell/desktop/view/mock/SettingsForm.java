package dev.mockbell.desktop.view.mock;

import dev.mockbell.contract.Port;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.Models;
import dev.mockbell.desktop.model.Notice;
import dev.mockbell.desktop.view.shared.Asking;
import dev.mockbell.desktop.view.shared.Copying;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.mock.AskedLogin;
import dev.mockbell.mock.Conduct;
import dev.mockbell.mock.MockHost;
import dev.mockbell.mock.MockLimits;
import dev.mockbell.mock.MockPlan;
import dev.mockbell.mock.MockTls;
import dev.mockbell.mock.QueueMock;
import dev.mockbell.mock.RequestRules;
import dev.mockbell.problem.Problem;
import dev.mockbell.wire.jms.JmsAddress;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ComboBox;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextArea;
import javafx.scene.control.TextField;

/** Where a mock listens, what it checks of requests, how much it lets in, and what it remembers from the start. */
final class SettingsForm {
    private static final double HIGH = 470;

    private SettingsForm() {}

    static void ask(Node within, Models models) {
        MocksModel model = models.mocks();
        MockPlan plan = model.plan().orElseThrow();
        Conduct conduct = plan.conduct();
        Form form = new Form();
        form.heading("Address");
        TextField host = Form.field("settings-host", plan.host(), "127.0.0.1");
        TextField port = Form.field("settings-port", String.valueOf(plan.port()), "0 for any free one");
        form.row("Host", host);
        form.row("Port", port);
        Map<String, TextField> paths = new TreeMap<>();
        MockHost.paths(model.contractProperty().get().contract(), plan).forEach((name, path) -> {
            TextField field = Form.field("settings-path-" + name, path, "/path");
            paths.put(name, field);
            form.row("Path of " + name, field);
        });
        Map<String, TextField> queues = new TreeMap<>();
        for (Port at : QueueMock.ports(model.contractProperty().get().contract())) {
            TextField field = Form.field(
                    "settings-queue-" + at.name(),
                    conduct.paths().getOrDefault(at.name(), ""),
                    "where calls of it go; or jms:queue:NAME?jndiURL=tcp://HOST:61616");
            queues.put(at.name(), field);
            form.row("Queue of " + at.name(), field);
        }
        CheckBox forwarded =
                box("settings-forwarded", "by X-Forwarded-Host, where a client sends it", conduct.byForwarded());
        form.row("?wsdl says", forwarded);
        CheckBox tls = box("settings-tls", "by TLS", conduct.tls().on());
        TextField key = Form.field("settings-key", conduct.tls().file(), "one made by the project's own authority");
        TextField keyPassword =
                Form.field("settings-key-password", conduct.tls().password(), "{$secret:name}");
        CheckBox clients = box(
                "settings-clients",
                "clients must bring a certificate",
                conduct.tls().asksClients());
        TextField authorities = Form.field("settings-authorities", conduct.tls().authorities(), "the project's own");
        form.row(
                "Spoken", tls, Form.link("Copy the authority's certificate", "For clients that are to trust it", () -> {
                    models.desk()
                            .tasks()
                            .run(
                                    () -> models.desk().keys().authority().pem(),
                                    pem -> {
                                        Copying.text(pem);
                                        models.desk()
                                                .tell(Notice.plain("Copied the certificate of the authority, as PEM"));
                                    },
                                    models.desk()::tell);
                }));
        form.row("Key", key);
        form.row("Its password", keyPassword);
        form.row("", clients);
        form.row("Issued by", authorities);
        form.heading("Requests are checked for");
        RequestRules rules = conduct.rules();
        CheckBox type = box("settings-type", "the media type of their version", rules.contentType());
        CheckBox action = box("settings-action", "the contract's action", rules.action());
        CheckBox must = box("settings-must", "header blocks that must be understood", rules.mustUnderstand());
        CheckBox schema = box("settings-schema", "being valid", rules.schema());
        form.row("", type);
        form.row("", action);
        form.row("", must);
        form.row("", schema);
        AskedLogin login = rules.login();
        ComboBox<String> way = new ComboBox<>();
        for (AskedLogin.Way one : AskedLogin.Way.values()) {
            way.getItems().add(one.title());
        }
        way.getSelectionModel().select(login.way().ordinal());
        way.setId("settings-login");
        TextField user = Form.field("settings-user", login.user(), "a user name");
        TextField password = Form.field("settings-password", login.password(), "{$secret:name}");
        CheckBox signed = box("settings-signed", "the body is signed", login.signed());
        TextField signers = Form.field("settings-signers", login.signers(), "a file of certificates, PEM");
        form.row("Logs in", way);
        form.row("User", user);
        form.row("Password", password);
        form.row("", signed);
        form.row("Signed by", signers);
        form.heading("Limits");
        MockLimits limits = conduct.limits();
        TextField body = Form.field("settings-body", String.valueOf(limits.body() >> 10), "KB");
        TextField depth = Form.field("settings-depth", String.valueOf(limits.depth()), "elements");
        TextField attributes = Form.field("settings-attributes", String.valueOf(limits.attributes()), "of one element");
        TextField connections = Form.field("settings-connections", String.valueOf(limits.connections()), "at once");
        TextField requests = Form.field("settings-requests", String.valueOf(limits.requests()), "answered at once");
        TextField idle =
                Form.field("settings-idle", String.valueOf(limits.idle().toMillis()), "ms");
        TextField whole =
                Form.field("settings-whole", String.valueOf(limits.whole().toMillis()), "ms");
        form.row("Body (KB)", body);
        form.row("Depth", depth);
        form.row("Attributes", attributes);
        form.row("Connections", connections);
        form.row("Requests", requests);
        form.row("Silence (ms)", idle);
        form.row("Arrival (ms)", whole);
        TextField stop = Form.field(
                "settings-stop", conduct.stopAfter() > 0 ? String.valueOf(conduct.stopAfter()) : "", "never");
        form.row("Stops after", stop);
        form.note("Limits, address and TLS count from the next start on.");
        form.heading("Callers, chance and memory");
        TextField caller =
                Form.field("settings-caller", conduct.caller(), "the user name of a login, else the address");
        TextField seed = Form.field("settings-seed", String.valueOf(conduct.seed()), "1");
        form.row("A caller is", caller);
        form.row("Chance begins at", seed);
        TextArea remembered = new TextArea(lines(conduct));
        remembered.setId("settings-remembered");
        remembered.getStyleClass().add("mono");
        remembered.setPrefRowCount(3);
        remembered.setPromptText("left = 30, a line each; left of each caller = 3");
        form.row("Remembers", remembered);
        ScrollPane pane = new ScrollPane(form);
        pane.setFitToWidth(true);
        pane.setPrefViewportHeight(HIGH);
        Form outer = new Form();
        outer.getChildren().add(pane);
        Asking.ask(
                within,
                "Settings of the " + model.contractProperty().get().title() + " mock",
                outer,
                "settings",
                () -> {
                    Conduct changed = conduct.with(new RequestRules(
                                    type.isSelected(),
                                    action.isSelected(),
                                    must.isSelected(),
                                    schema.isSelected(),
                                    new AskedLogin(
                                            AskedLogin.Way.values()[
                                                    way.getSelectionModel().getSelectedIndex()],
                                            user.getText().strip(),
                                            password.getText(),
                                            signed.isSelected(),
                                            signers.getText().strip())))
                            .with(new MockLimits(
                                    number(body, "The size of a body", 1, 2_000_000) << 10,
                                    (int) number(depth, "The depth", 1, 100_000),
                                    (int) number(attributes, "The number of attributes", 1, 100_000),
                                    (int) number(connections, "The number of connections", 1, 100_000),
                                    (int) number(requests, "The number of requests", 1, 100_000),
                                    limits.held(),
                                    Duration.ofMillis(number(idle, "The silence", 1, 86_400_000)),
                                    Duration.ofMillis(number(whole, "The arrival", 1, 86_400_000))))
                            .with(new MockTls(
                                    tls.isSelected(),
                                    key.getText().strip(),
                                    keyPassword.getText(),
                                    clients.isSelected(),
                                    authorities.getText().strip()))
                            .stoppingAfter(
                                    stop.getText().isBlank()
                                            ? 0
                                            : number(stop, "The number of answers", 0, Long.MAX_VALUE))
                            .byForwarded(forwarded.isSelected())
                            .knowingCallersBy(caller.getText().strip())
                            .withSeed(number(seed, "Where chance begins", 0, Long.MAX_VALUE))
                            .at(addresses(paths, queues, plan, model));
                    return plan.withHost(Asking.needed(host.getText(), "The host"))
                            .withPort((int) number(port, "The port", 0, 65_535))
                            .with(remembering(changed, remembered.getText()));
                },
                changed -> {
                    model.edits().plan(now -> changed);
                    model.settled(plan, changed);
                });
    }

    private static CheckBox box(String id, String words, boolean on) {
        CheckBox box = new CheckBox(words);
        box.setId(id);
        box.setSelected(on);
        return box;
    }

    private static long number(TextField field, String what, long least, long most) {
        String typed = field.getText().strip();
        long value = typed.matches("[0-9]{1,18}") ? Long.parseLong(typed) : -1;
        if (value < least || value > most) {
            throw Problem.input(what + " should be a whole number from " + least + " to " + most, null, null);
        }
        return value;
    }

    /** Those that are not where their own address has them. */
    private static Map<String, String> addresses(
            Map<String, TextField> typed, Map<String, TextField> queues, MockPlan plan, MocksModel model) {
        Map<String, String> usual = MockHost.paths(
                model.contractProperty().get().contract(),
                plan.with(plan.conduct().at(Map.of())));
        Map<String, String> changed = new LinkedHashMap<>();
        typed.forEach((name, field) -> {
            String path = field.getText().strip();
            if (!path.matches("/[\\w./~%+,;=:@!$&'()*-]*")) {
                throw Problem.input(
                        "“" + path + "” is no path: it begins with / and has neither spaces nor ? and #", null, null);
            }
            if (!path.equals(usual.get(name))) {
                changed.put(name, path);
            }
        });
        queues.forEach((name, field) -> {
            String address = field.getText().strip();
            if (!address.isEmpty()) {
                // says what is wrong with it
                JmsAddress.of(address);
                changed.put(name, address);
            }
        });
        return changed;
    }

    private static String lines(Conduct conduct) {
        StringBuilder text = new StringBuilder();
        Map<String, String> all = new LinkedHashMap<>(conduct.remembered());
        conduct.apart().forEach(name -> all.putIfAbsent(name, ""));
        all.forEach((name, value) -> text.append(name)
                .append(conduct.apart().contains(name) ? EACH : "")
                .append(" = ")
                .append(value)
                .append('\n'));
        return text.toString();
    }

    private static final String EACH = " of each caller";

    private static Conduct remembering(Conduct conduct, String lines) {
        Conduct made = conduct.remembering(Map.of(), Set.of());
        for (String line : lines.lines().filter(l -> !l.isBlank()).toList()) {
            int equals = line.indexOf('=');
            String left =
                    (equals < 0 ? line : line.substring(0, equals)).strip().replaceFirst("^\\$", "");
            boolean each = left.endsWith(EACH);
            String name =
                    each ? left.substring(0, left.length() - EACH.length()).strip() : left;
            if (!name.matches("[A-Za-z_][A-Za-z0-9_.-]*")) {
                throw Problem.input("“" + line.strip() + "” does not read as “name = an XPath”", null, null);
            }
            Optional<String> value =
                    Optional.of(equals < 0 ? "" : line.substring(equals + 1).strip());
            made = made.remembering(name, value.get()).apart(name, each);
        }
        return made;
    }
}
