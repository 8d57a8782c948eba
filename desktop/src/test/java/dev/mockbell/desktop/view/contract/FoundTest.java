package dev.mockbell.desktop.view.contract;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.HttpServer;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.project.KeptContract;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.Map;
import javafx.scene.control.Button;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A page that lists contracts, by gestures. */
class FoundTest extends OnDesktop {
    private final Map<String, String> pages = new HashMap<>();
    private HttpServer server;

    @BeforeEach
    void serve() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", exchange -> {
            String page = pages.get(exchange.getRequestURI().toString());
            byte[] bytes = (page == null ? "nothing" : page).getBytes(StandardCharsets.UTF_8);
            exchange.getResponseHeaders()
                    .set("Content-Type", page != null && page.startsWith("<html") ? "text/html" : "text/xml");
            exchange.sendResponseHeaders(page == null ? 404 : 200, bytes.length);
            exchange.getResponseBody().write(bytes);
            exchange.close();
        });
        server.start();
        String wsdl = Files.readString(desktop.wsdl);
        pages.put("/peaks?wsdl", wsdl);
        pages.put("/tops?wsdl", wsdl.replace("service name=\"Peaks\"", "service name=\"Tops\""));
        pages.put("/weather?wsdl", wsdl.replace("service name=\"Peaks\"", "service name=\"Weather\""));
        pages.put(
                "/",
                "<html><a href='/peaks?wsdl'>Peaks</a> <a href='/tops?wsdl'>Tops</a> <a href='/Weather?wsdl'>Weather</a>"
                        + " <a href='/old?wsdl'>Old</a></html>");
        pages.put("/empty", "<html>Nothing here</html>");
    }

    @AfterEach
    void stop() {
        server.stop(0);
    }

    private String address(String path) {
        return "http://127.0.0.1:" + server.getAddress().getPort() + path;
    }

    private void look(String path) {
        hand.type("#contract-address", address(path));
        hand.press(KeyCode.ENTER);
    }

    private String add() {
        return Hand.on(() -> ((Button) hand.find("#found-add").orElseThrow()).getText());
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    @Test
    void whatAPageListsIsTickedAndKept() {
        look("/");
        hand.await("the list", () -> hand.find("#found").isPresent());
        assertThat(hand.shows("4 contracts found on that page")).isTrue();
        hand.await("what they offer", () -> hand.shows("1 operation · document/literal · 1.1, 1.2"));
        assertThat(add()).isEqualTo("Add 2 contracts");
        shoot("found");
        hand.clickText("use that one");
        hand.await("three", () -> add().equals("Add 3 contracts"));
        hand.click("#found-all");
        assertThat(add()).isEqualTo("Add 0 contracts");
        hand.click("#found-list .check-box");
        assertThat(add()).isEqualTo("Add 1 contract");
        hand.click("#found-all");
        hand.click("#found-all");
        hand.click("#found-add");
        hand.await("the contracts", () -> desktop.desk.project().contracts().size() == 3);
        assertThat(desktop.onDisk().contracts())
                .extracting(KeptContract::title)
                .containsExactlyInAnyOrder("Peaks", "Tops", "Weather");
        assertThat(hand.find("#board")).isPresent();
    }

    @Test
    void thereIsAListingToChooseFromAlsoWhereAContractIsAdded() {
        desktop.addContract();
        hand.click("#add-contract");
        look("/");
        hand.await("the list", () -> hand.find("#found").isPresent());
        shoot("found-added");
        hand.click("#found-add");
        hand.await("the contracts", () -> desktop.desk.project().contracts().size() == 3);
        assertThat(hand.find("#found")).isEmpty();
    }

    @Test
    void aPageWithoutContractsSaysWhatItIs() {
        look("/empty");
        hand.await("the words", () -> hand.shows("This is a web page, not a WSDL"));
        assertThat(hand.find("#found")).isEmpty();
        shoot("start");
    }
}
