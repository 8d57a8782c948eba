package dev.mockbell.desktop.view.call;

import static org.assertj.core.api.Assertions.assertThat;

import com.sun.net.httpserver.BasicAuthenticator;
import com.sun.net.httpserver.HttpServer;
import dev.mockbell.access.Profile;
import dev.mockbell.desktop.OnDesktop;
import dev.mockbell.desktop.drive.Hand;
import dev.mockbell.project.Project;
import dev.mockbell.security.Token;
import dev.mockbell.wire.Certificates;
import dev.mockbell.wire.PlainServer;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import javafx.scene.control.ComboBox;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A profile is made, filled and picked where the request is, and the call goes by it. */
class SecurityFaceTest extends OnDesktop {
    private static final String ANSWER =
            "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><p:ClimbResponse xmlns:p='urn:peaks'><p:permit>P</p:permit><p:fee>1</p:fee></p:ClimbResponse></e:Body></e:Envelope>";

    private HttpServer guarded;

    @BeforeEach
    void open() throws Exception {
        guarded = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 5);
        guarded.createContext("/peaks", exchange -> {
                    exchange.getRequestBody().readAllBytes();
                    byte[] answer = ANSWER.getBytes(StandardCharsets.UTF_8);
                    exchange.getResponseHeaders().add("Content-Type", "text/xml; charset=utf-8");
                    exchange.sendResponseHeaders(200, answer.length);
                    exchange.getResponseBody().write(answer);
                    exchange.close();
                })
                .setAuthenticator(new BasicAuthenticator("peaks") {
                    @Override
                    public boolean checkCredentials(String user, String password) {
                        return user.equals("anna") && password.equals("open sesame");
                    }
                });
        guarded.start();
        desktop.addContract();
        hand.press(KeyCode.ALT, KeyCode.DIGIT2);
        hand.type("#endpoint", "http://127.0.0.1:" + guarded.getAddress().getPort() + "/peaks");
        hand.press(KeyCode.ENTER);
        hand.clickText("Security");
    }

    @AfterEach
    void stop() {
        guarded.stop(0);
    }

    private void shoot(String name) {
        String out = System.getProperty("mockbell.looks", "");
        if (!out.isEmpty()) {
            hand.shoot(Path.of(out, name + ".png"));
        }
    }

    private Project project() {
        return Hand.on(() -> desktop.desk.project());
    }

    private Profile profile() {
        return project().settings().profiles().get(0);
    }

    private int status() {
        return Hand.on(() -> desktop.models.call().calledProperty().get())
                .answer()
                .exchange()
                .status();
    }

    @Test
    void aProfileLogsInAndItsPasswordIsNotInTheProject() throws Exception {
        shoot("security-empty");
        send();
        assertThat(status()).isEqualTo(401);
        hand.click("#add-profile");
        hand.type("#profile-name", "Guide");
        hand.press(KeyCode.ENTER);
        hand.await("the name", () -> profile().name().equals("Guide"));
        Hand.run(() -> {
            ComboBox<Profile.Way> way = cast(hand.find("#profile-way").orElseThrow());
            way.setValue(Profile.Way.WHEN_ASKED);
        });
        hand.type("#profile-user", "anna");
        hand.press(KeyCode.ENTER);
        hand.type("#profile-secret", "open sesame");
        hand.press(KeyCode.ENTER);
        hand.await("the password", () -> profile().login().secret().equals("{$secret:guide-password}"));
        shoot("security");
        send();
        assertThat(status()).isEqualTo(200);
        desktop.settled();
        try (var files = Files.walk(desktop.project)) {
            for (Path file : files.filter(Files::isRegularFile)
                    .filter(f -> !f.toString().contains(".mockbell"))
                    .toList()) {
                assertThat(Files.readString(file)).doesNotContain("sesame");
            }
        }
        assertThat(Files.readString(desktop.project.resolve("mockbell.yaml"))).contains("name: Guide");
    }

    @SuppressWarnings("unchecked")
    private static <T> T cast(Object node) {
        return (T) node;
    }

    @Test
    void aProfileIsPickedForTheEndpointAndACaseMayStayNobody() {
        hand.click("#add-profile");
        hand.clickText("The endpoint too");
        hand.await(
                "the endpoint",
                () -> project().current().security("peaks", "Peaks11").equals("Profile"));
        assertThat(Hand.on(() -> desktop.models.call().security().picked())).isEmpty();
        hand.click("#profile-none");
        hand.await("nobody", () -> desktop.models.call().security().picked().equals("none"));
        assertThat(Hand.on(() -> desktop.models.call().security().current())).isEmpty();
        hand.click("#profile-environment");
        hand.clickText("Remove");
        hand.await("none", () -> project().settings().profiles().isEmpty());
        assertThat(project().current().security()).isEmpty();
    }

    @Test
    void whatTheMessageCarriesIsSeenInTheWireBeforeItIsSent() {
        hand.click("#add-profile");
        Hand.run(() -> {
            ComboBox<Token> token = cast(hand.find("#profile-token").orElseThrow());
            token.setValue(Token.DIGEST);
        });
        hand.type("#profile-user", "anna");
        hand.press(KeyCode.ENTER);
        hand.type("#profile-secret", "open sesame");
        hand.press(KeyCode.ENTER);
        hand.type("#profile-life", "300");
        hand.press(KeyCode.ENTER);
        hand.await("the timestamp", () -> profile().message().life() == 300);
        shoot("security-message");
        hand.click("#segment-wire");
        hand.await(
                "the header",
                () -> Hand.on(() ->
                                desktop.models.call().preview().textProperty().get())
                        .contains("PasswordDigest"));
        String wire =
                Hand.on(() -> desktop.models.call().preview().textProperty().get());
        assertThat(wire).contains("Timestamp").contains(">anna<").doesNotContain("sesame");
        shoot("security-wire");
    }

    @Test
    void aFingerprintThatIsNoneIsToldAndOneThatIsIsKept() {
        hand.click("#add-profile");
        hand.type("#profile-trust", "abc");
        hand.press(KeyCode.ENTER);
        hand.await("the reason", () -> hand.shows("This is no fingerprint of a certificate"));
        hand.type("#profile-trust", "ab".repeat(32));
        hand.press(KeyCode.ENTER);
        hand.await("the certificate", () -> profile().trusted().fingerprints().size() == 1);
        shoot("security-trust");
    }

    @Test
    void aCertificateThatIsNotTrustedIsShownWholeAndTrustedForTheEndpoint(@TempDir Path folder) throws Exception {
        try (PlainServer server = PlainServer.secure(
                Certificates.of("localhost", folder).server(),
                (r, out, s) -> out.write(PlainServer.ok(ANSWER).getBytes(StandardCharsets.UTF_8)))) {
            hand.type("#endpoint", server.address());
            hand.press(KeyCode.ENTER);
            send();
            assertThat(status()).isZero();
            shoot("untrusted");
            hand.click("#look-at-certificate");
            hand.await("the certificate", () -> hand.find("#trust-certificate").isPresent());
            assertThat(hand.shows("CN=localhost")).isTrue();
            assertThat(hand.shows("itself")).isTrue();
            shoot("certificate");
            assertThat(server.requests()).isEmpty();
            hand.click("#trust-certificate");
            hand.await(
                    "the profile",
                    () -> project().current().security("peaks", "Peaks11").equals("localhost"));
            hand.await("the face", () -> hand.shows("as in Local (localhost)"));
            shoot("certificate-trusted");
            send();
            assertThat(status()).isEqualTo(200);
            assertThat(server.requests()).hasSize(1);
        }
    }
}
