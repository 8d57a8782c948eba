package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.desktop.model.ContractsModel;
import dev.mockbell.desktop.part.Grid;
import dev.mockbell.project.KeptContract;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.net.Socket;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.Region;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** The first station, by its gestures. */
class ContractStationTest extends OnDesktop {

    @BeforeEach
    void open() {
        desktop.addContract();
    }

    private KeptContract kept() {
        return desktop.desk.project().contracts().get(0);
    }

    private String where() {
        SourcePane pane = (SourcePane) hand.find("#source-pane").orElseThrow();
        return Hand.on(pane::where);
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    private static String on(String text) {
        return Hand.on(() -> text);
    }

    @Test
    void aComponentLeadsToItsLineAndBack() {
        hand.clickText("Source");
        String operation = where();
        assertThat(Files.exists(desktop.wsdl)).isTrue();
        assertThat(lineAt(operation)).contains("<operation name=\"Climb\">");
        hand.type("#source-find", "name=\"In\"");
        hand.press(KeyCode.ENTER);
        assertThat(lineAt(where())).contains("message name=\"In\"");
        shoot("source");
        hand.click("#source-definition");
        assertThat(lineAt(where())).contains("element name=\"Climb\"");
        hand.click("#source-back");
        assertThat(lineAt(where())).contains("message name=\"In\"");
    }

    private String lineAt(String where) {
        int line = Integer.parseInt(where.substring(where.lastIndexOf(':') + 1));
        return kept().contract().documents().get(0).text().split("\n", -1)[line - 1];
    }

    @Test
    void everyPieceOfTheRecipeIsCopiedByOneClick() {
        hand.clickText("On the wire");
        shoot("wire");
        hand.click("#copy-address");
        assertThat(Hand.on(() -> Clipboard.getSystemClipboard().getString())).endsWith("/peaks");
        hand.click("#copy-soapaction");
        assertThat(Hand.on(() -> Clipboard.getSystemClipboard().getString())).isEqualTo("\"urn:climb\"");
    }

    @Test
    void aContractIsRenamedAndItsEndpointSet() {
        hand.click("#manage-" + kept().name());
        shoot("manage");
        hand.type("#endpoint-of-Peaks11", "http://127.0.0.1:2/elsewhere");
        hand.press(KeyCode.ENTER);
        hand.await(
                "the endpoint",
                () -> desktop.desk
                        .endpoint(kept(), kept().contract().ports().get(0))
                        .endsWith("/elsewhere"));
        hand.type("#contract-title", "The peaks");
        hand.click("#contract-rename");
        hand.await("the title", () -> kept().title().equals("The peaks"));
        var again = desktop.onDisk();
        assertThat(again.contracts().get(0).title()).isEqualTo("The peaks");
        assertThat(again.current().endpoint(kept().name(), "Peaks11")).contains("http://127.0.0.1:2/elsewhere");
    }

    @Test
    void aRemovedContractComesBack() {
        String name = kept().name();
        hand.click("#manage-" + name);
        hand.click("#contract-remove");
        hand.await("nothing left", () -> desktop.desk.project().contracts().isEmpty());
        desktop.settled();
        assertThat(desktop.project.resolve("contracts").resolve(name)).doesNotExist();
        hand.clickText("Bring it back");
        hand.await("the contract", () -> !desktop.desk.project().contracts().isEmpty());
        desktop.settled();
        assertThat(desktop.project.resolve("contracts").resolve(name).resolve("snapshot.yaml"))
                .exists();
    }

    @Test
    void aContractIsWrittenOutAtAnotherAddressAndUnderOtherNames() throws IOException {
        Path out = folder.resolve("out.wsdl");
        hand.click("#manage-" + kept().name());
        hand.clickText("One WSDL");
        hand.type("#export-path", out.toString());
        hand.type("#export-protocol", "https");
        hand.type("#export-host", "huts.example");
        hand.type("#export-port", "x");
        hand.click("#contract-export");
        hand.await("the words", () -> hand.shows("“x” is no port"));
        hand.type("#export-port", "81");
        hand.type("#export-namespace", "urn:northfell:peaks");
        hand.type("#export-service", "Tops");
        shoot("write-out");
        hand.click("#contract-export");
        hand.await("the file", () -> Files.exists(out));
        desktop.settled();
        assertThat(Files.readString(out))
                .contains("https://huts.example:81/peaks")
                .contains("targetNamespace=\"urn:northfell:peaks\"")
                .contains("service name=\"Tops\"");
        hand.await("the words", () -> hand.shows("Wrote 1 file"));
    }

    @Test
    void operationsAreSortedByAClickOnTheTitle() throws IOException {
        addMany();
        Grid<?> board = (Grid<?>) hand.find("#board").orElseThrow();
        shoot("board");
        String first = Hand.on(() -> board.items().get(board.items().size() - 1).toString());
        hand.clickText("Operation");
        hand.clickText("Operation ↑");
        String last = Hand.on(() -> board.items().get(board.items().size() - 1).toString());
        assertThat(last).isNotEqualTo(first);
        hand.type("#board-filter", "Climb2999");
        hand.await("one row and its heading", () -> board.items().size() == 2);
    }

    private void addMany() throws IOException {
        String text = Files.readString(desktop.wsdl);
        StringBuilder types = new StringBuilder();
        StringBuilder bound = new StringBuilder();
        for (int i = 0; i < 3_000; i++) {
            types.append("<operation name=\"Climb")
                    .append(i)
                    .append("\"><input message=\"tns:In\"/><output message=\"tns:Out\"/></operation>");
            bound.append("<operation name=\"Climb")
                    .append(i)
                    .append("\"><soap:operation soapAction=\"")
                    .append(i)
                    .append(
                            "\"/><input><soap:body use=\"literal\"/></input><output><soap:body use=\"literal\"/></output></operation>");
        }
        Path large = folder.resolve("large.wsdl");
        Files.writeString(
                large,
                text.replaceFirst("</portType>", types + "</portType>")
                        .replaceFirst("</binding>", bound + "</binding>"));
        hand.click("#add-contract");
        shoot("add");
        hand.type("#contract-address", large.toString());
        hand.click("#contract-add");
        hand.await(
                "the second contract", () -> desktop.desk.project().contracts().size() == 2);
    }

    @Test
    void findingsAreListedTheGravestFirst() throws IOException {
        desktop.addFlawedContract();
        hand.click("#show-findings");
        shoot("findings");
        assertThat(hand.find("#findings")).isPresent();
        hand.clickText("Notes");
        hand.clickText("Errors");
        hand.clickText("unresolved-port-type");
        assertThat(where()).contains("flawed.wsdl");
    }

    @Test
    void aLoginIsAskedForAndTheContractRead() throws Exception {
        String wsdl = Files.readString(desktop.wsdl);
        try (ServerSocket server = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            Thread serving = new Thread(() -> serve(server, wsdl));
            serving.setDaemon(true);
            serving.start();
            String address = "http://127.0.0.1:" + server.getLocalPort() + "/peaks?wsdl";
            Hand.run(() -> desktop.desk.importContract(address));
            hand.await("the question", () -> shown("#login"));
            shoot("login");
            hand.type("#login-user", "ines");
            hand.type("#login-password", "right");
            hand.click("#login-send");
            hand.await("the contract", () -> desktop.desk.project().contracts().size() == 2);
            ContractsModel model = desktop.desk.contracts();
            assertThat(Hand.on(model::recent)).contains(address);
            assertThat(Hand.on(() -> model.questionProperty().get())).isNull();
        }
    }

    @Test
    void aContractWithoutAServiceIsCalledAtTheAddressThatIsGiven() throws IOException {
        String address = Hand.on(() -> desktop.service.addresses().get("Peaks11"));
        Path file = folder.resolve("bindings.wsdl");
        Files.writeString(file, Files.readString(desktop.wsdl).replaceAll("(?s)<service .*?</service>", ""));
        Hand.run(() -> desktop.desk.importContract(file.toString()));
        hand.await("the contract", () -> desktop.desk.places().size() == 2);
        Hand.run(() -> desktop.desk.placeProperty().set(desktop.desk.places().get(1)));
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.clickText("the contract has no address");
        hand.type("#value-days", "2");
        hand.type("#endpoint", address);
        hand.press(KeyCode.ENTER);
        hand.await("kept", () -> desktop.models.call().endpoint().address().equals(address));
        send();
        assertThat(Hand.on(() -> desktop.models.call().exchange().orElseThrow().status()))
                .isEqualTo(200);
    }

    @Test
    void leavingTheQuestionGivesUpTheReading() throws Exception {
        String wsdl = Files.readString(desktop.wsdl);
        try (ServerSocket server = new ServerSocket(0, 5, InetAddress.getLoopbackAddress())) {
            Thread serving = new Thread(() -> serve(server, wsdl));
            serving.setDaemon(true);
            serving.start();
            ContractsModel model = desktop.desk.contracts();
            Hand.run(() -> desktop.desk.importContract("http://127.0.0.1:" + server.getLocalPort() + "/peaks?wsdl"));
            hand.await("the question", () -> shown("#login"));
            hand.press(KeyCode.ESCAPE);
            hand.await(
                    "the reason",
                    () -> desktop.desk.notices().stream().anyMatch(n -> n.text().contains("asks for a login")));
            assertThat(Hand.on(() -> model.progressProperty().get())).isEmpty();
            assertThat(Hand.on(() -> model.questionProperty().get())).isNull();
            Hand.run(() -> desktop.desk.importContract("http://127.0.0.1:" + server.getLocalPort() + "/peaks?wsdl"));
            hand.await("it again", () -> shown("#login"));
            hand.type("#login-user", "ines");
            hand.type("#login-password", "wrong");
            hand.click("#login-send");
            hand.await(
                    "once more",
                    () -> model.questionProperty().get() != null
                            && model.questionProperty().get().again());
            hand.type("#login-user", "ines");
            hand.type("#login-password", "right");
            hand.click("#login-send");
            hand.await("the contract", () -> desktop.desk.project().contracts().size() == 2);
        }
    }

    private static void serve(ServerSocket server, String wsdl) {
        while (!server.isClosed()) {
            try (Socket socket = server.accept()) {
                InputStream in = socket.getInputStream();
                StringBuilder request = new StringBuilder();
                while (!request.toString().endsWith("\r\n\r\n")) {
                    request.append((char) in.read());
                }
                boolean known = request.toString().contains("Authorization: Basic aW5lczpyaWdodA==");
                String answer = known
                        ? "HTTP/1.1 200 OK\r\nContent-Length: " + wsdl.length() + "\r\nConnection: close\r\n\r\n" + wsdl
                        : "HTTP/1.1 401 No\r\nWWW-Authenticate: Basic realm=\"peaks\"\r\nContent-Length: 0\r\nConnection: close\r\n\r\n";
                OutputStream out = socket.getOutputStream();
                out.write(answer.getBytes(StandardCharsets.UTF_8));
                out.flush();
            } catch (IOException closed) {
                return;
            }
        }
    }

    @Test
    void aPastedWsdlIsReadAsOne() throws IOException {
        String text = Files.readString(desktop.wsdl);
        Hand.run(() -> {
            ClipboardContent content = new ClipboardContent();
            content.putString(text);
            Clipboard.getSystemClipboard().setContent(content);
        });
        hand.click("#board");
        hand.press(KeyCode.CONTROL, KeyCode.V);
        hand.await(
                "the second contract", () -> desktop.desk.project().contracts().size() == 2);
        assertThat(Hand.on(() ->
                        desktop.desk.project().contracts().get(1).contract().source()))
                .endsWith("pasted.wsdl");
    }

    @Test
    void theSourceNeedsRoomAndGivesItBack() {
        double narrow = width();
        hand.clickText("Source");
        assertThat(width()).isGreaterThan(narrow);
        hand.clickText("Anatomy");
        assertThat(width()).isEqualTo(narrow);
    }

    private double width() {
        Region anatomy = (Region) hand.find("#anatomy").orElseThrow();
        return Hand.on(() -> {
            hand.stage().getScene().getRoot().layout();
            return anatomy.getWidth();
        });
    }

    private boolean shown(String selector) {
        return hand.stage().getScene().getRoot().lookup(selector) != null;
    }
}
