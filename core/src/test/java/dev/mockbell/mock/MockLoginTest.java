package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.security.KeyName;
import dev.mockbell.security.MessageSecurity;
import dev.mockbell.security.Token;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.Authority;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.Base64;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.w3c.dom.Document;

/** Who may call a mock, and what the others are told. */
@Timeout(60)
class MockLoginTest {
    private static final String WSSE =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-secext-1.0.xsd";
    private static final String WSU =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-wssecurity-utility-1.0.xsd";
    private static final String PROFILE =
            "http://docs.oasis-open.org/wss/2004/01/oasis-200401-wss-username-token-profile-1.0#";

    private final MockUnderTest mock = new MockUnderTest();
    private final HttpClient client = HttpClient.newHttpClient();

    @AfterEach
    void close() {
        mock.close();
    }

    private void asking(AskedLogin login) {
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.with(RequestRules.USUAL.with(login))), null);
    }

    private HttpResponse<String> call(SoapVersion version, String... headers) throws Exception {
        String port = version == SoapVersion.V11 ? "StaySoap11" : "StaySoap12";
        HttpRequest request = HttpRequest.newBuilder(
                        URI.create(mock.host.addresses().get(port)))
                .header("Content-Type", version.contentType(""))
                .POST(BodyPublishers.ofString(
                        Envelope.around(version, MockUnderTest.book("NF-07", 2), List.of(headers))))
                .build();
        return client.send(request, BodyHandlers.ofString());
    }

    private static String token(String user, String password) {
        return security("<w:Username>" + user + "</w:Username><w:Password Type='" + PROFILE + "PasswordText'>"
                + password + "</w:Password>");
    }

    private static String security(String token) {
        return "<w:Security xmlns:w='" + WSSE + "' xmlns:u='" + WSU + "'><w:UsernameToken>" + token
                + "</w:UsernameToken></w:Security>";
    }

    private static String digest(String user, String password, String nonce, Instant at) throws Exception {
        MessageDigest sha = MessageDigest.getInstance("SHA-1");
        sha.update(nonce.getBytes(StandardCharsets.UTF_8));
        sha.update(at.toString().getBytes(StandardCharsets.UTF_8));
        sha.update(password.getBytes(StandardCharsets.UTF_8));
        Base64.Encoder encoder = Base64.getEncoder();
        return security("<w:Username>" + user + "</w:Username><w:Password Type='" + PROFILE + "PasswordDigest'>"
                + encoder.encodeToString(sha.digest()) + "</w:Password><w:Nonce>"
                + encoder.encodeToString(nonce.getBytes(StandardCharsets.UTF_8)) + "</w:Nonce><u:Created>" + at
                + "</u:Created>");
    }

    @Test
    void basicIsAskedForWithAChallenge() {
        asking(new AskedLogin(AskedLogin.Way.BASIC, "guide", "granite-17", false, ""));
        String two = MockUnderTest.book("NF-07", 2);
        HttpResponse<String> nobody = mock.call(two);
        assertThat(nobody.statusCode()).isEqualTo(401);
        assertThat(nobody.headers().firstValue("WWW-Authenticate"))
                .hasValueSatisfying(v -> assertThat(v).startsWith("Basic realm="));
        String right = Base64.getEncoder().encodeToString("guide:granite-17".getBytes(StandardCharsets.UTF_8));
        String wrong = Base64.getEncoder().encodeToString("guide:granite-18".getBytes(StandardCharsets.UTF_8));
        assertThat(mock.call(two, "Authorization", "Basic " + wrong).statusCode())
                .isEqualTo(401);
        assertThat(mock.call(two, "Authorization", "Basic %%%").statusCode()).isEqualTo(401);
        assertThat(mock.call(two, "Authorization", "basic " + right).statusCode())
                .isEqualTo(200);
        assertThat(nobody.body()).doesNotContain("granite");
    }

    @Test
    void aTokenWithItsPasswordAsTextIsAskedFor() throws Exception {
        asking(new AskedLogin(AskedLogin.Way.TOKEN_TEXT, "guide", "granite-17", false, ""));
        HttpResponse<String> nobody = call(SoapVersion.V11);
        assertThat(nobody.statusCode()).isEqualTo(500);
        assertThat(nobody.body())
                .contains(">wsse:InvalidSecurity<")
                .contains("no security header")
                .contains(WSSE);
        HttpResponse<String> wrong = call(SoapVersion.V12, token("guide", "granite-18"));
        assertThat(wrong.statusCode()).isEqualTo(400);
        assertThat(wrong.body()).contains(":Sender<").contains("Subcode").contains(">wsse:FailedAuthentication<");
        assertThat(call(SoapVersion.V11, token("other", "granite-17")).body()).contains("FailedAuthentication");
        assertThat(call(SoapVersion.V11, token("guide", "granite-17")).statusCode())
                .isEqualTo(200);
        assertThat(call(SoapVersion.V12, token("guide", "granite-17")).statusCode())
                .isEqualTo(200);
        assertThat(call(SoapVersion.V11, digest("guide", "granite-17", "n-0", Instant.now()))
                        .statusCode())
                .as("a digest where text is asked for")
                .isEqualTo(500);
    }

    @Test
    void aDigestIsGoodOnceAndForAFewMinutes() throws Exception {
        asking(new AskedLogin(AskedLogin.Way.TOKEN_DIGEST, "guide", "granite-17", false, ""));
        Instant now = Instant.now().truncatedTo(ChronoUnit.SECONDS);
        String once = digest("guide", "granite-17", "n-1", now);
        assertThat(call(SoapVersion.V11, once).statusCode()).isEqualTo(200);
        HttpResponse<String> again = call(SoapVersion.V11, once);
        assertThat(again.statusCode()).as("its nonce was used").isEqualTo(500);
        assertThat(call(SoapVersion.V11, digest("guide", "granite-17", "n-2", now))
                        .statusCode())
                .isEqualTo(200);
        assertThat(call(SoapVersion.V11, digest("guide", "granite-17", "n-3", now.minusSeconds(3_600)))
                        .statusCode())
                .as("too old")
                .isEqualTo(500);
        assertThat(call(SoapVersion.V11, digest("guide", "granite-18", "n-4", now))
                        .body())
                .contains("FailedAuthentication");
        assertThat(call(SoapVersion.V11, token("guide", "granite-17")).statusCode())
                .isEqualTo(500);
    }

    private static String signed(dev.mockbell.wire.ClientKey.Opened key, String payload) {
        Document envelope = Xml.parse(Envelope.around(SoapVersion.V11, payload, List.of()), "e", XmlLimits.MESSAGE);
        new MessageSecurity(
                        MessageSecurity.Addressee.LAST,
                        Token.NONE,
                        "",
                        "",
                        Optional.empty(),
                        Optional.of(new MessageSecurity.Signing(key, KeyName.TOKEN, List.of())),
                        Optional.empty())
                .secure(envelope);
        return XmlText.exact(envelope);
    }

    private HttpResponse<String> send(String envelope) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(
                        URI.create(mock.host.addresses().get("StaySoap11")))
                .header("Content-Type", "text/xml; charset=utf-8")
                .POST(BodyPublishers.ofString(envelope))
                .build();
        return client.send(request, BodyHandlers.ofString());
    }

    @Test
    void aSignatureMustBeOfSomebodyWhoCountsAndHoldForTheBody(@TempDir Path folder) throws Exception {
        Authority known = Authority.made("Northfell", Instant.now());
        Authority stranger = Authority.made("Elsewhere", Instant.now());
        Files.writeString(folder.resolve("guides.pem"), known.pem());
        AskedLogin asked = new AskedLogin(AskedLogin.Way.NONE, "", "", true, "guides.pem");
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.with(RequestRules.USUAL.with(asked))), folder);
        String two = MockUnderTest.book("NF-07", 2);
        String fine = signed(known.issue("guide", Instant.now()), two);
        assertThat(send(fine).statusCode()).as(send(fine).body()).isEqualTo(200);
        HttpResponse<String> changed = send(fine.replace("NF-07", "NF-08"));
        assertThat(changed.statusCode()).isEqualTo(500);
        assertThat(changed.body()).contains(">wsse:FailedCheck<");
        assertThat(send(signed(stranger.issue("guide", Instant.now()), two)).statusCode())
                .isEqualTo(500);
        assertThat(call(SoapVersion.V11).body()).contains("no security header");
        assertThat(call(SoapVersion.V11, token("guide", "x")).statusCode()).isEqualTo(500);
    }

    @Test
    void theActionAndTheSchemaAreCheckedWhereThatIsWanted() throws Exception {
        RequestRules rules = RequestRules.USUAL.checkingAction(true).checkingSchema(true);
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.with(rules)), null);
        HttpResponse<String> action = call(SoapVersion.V11);
        assertThat(action.statusCode()).isEqualTo(500);
        assertThat(action.body()).contains("The action is “”").contains("it should be");
        mock.host.replace(
                MockPlan.sampling("stay", 0).with(Conduct.USUAL.with(RequestRules.USUAL.checkingSchema(true))));
        assertThat(call(SoapVersion.V11).statusCode()).isEqualTo(200);
        HttpResponse<String> invalid = mock.call(MockUnderTest.book("no-hut", 2));
        assertThat(invalid.statusCode()).isEqualTo(500);
        assertThat(invalid.body())
                .contains("The request is not valid")
                .contains("no-hut")
                .contains(":Client<");
    }
}
