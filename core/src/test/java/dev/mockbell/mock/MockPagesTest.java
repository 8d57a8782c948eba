package dev.mockbell.mock;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.URLEncoder;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.util.Base64;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;

/** What a mock shows to who comes with a browser, and the contract that it serves. */
@Timeout(60)
class MockPagesTest {
    private static final Pattern FIELD =
            Pattern.compile("<input class=\"v\" id=\"(v\\d+)\" name=\"v\\d+\" value=\"([^\"]*)\">");

    private final MockUnderTest mock = new MockUnderTest();
    private final HttpClient browser = HttpClient.newHttpClient();

    @AfterEach
    void close() {
        mock.close();
    }

    private HttpResponse<String> get(String target, String... headers) throws Exception {
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(mock.host.base() + target));
        if (headers.length > 0) {
            request.headers(headers);
        }
        return browser.send(request.build(), BodyHandlers.ofString());
    }

    private String post(String target, Map<String, String> fields) throws Exception {
        return posted(target, fields).body();
    }

    private HttpResponse<String> posted(String target, Map<String, String> fields, String... headers) throws Exception {
        String form = fields.entrySet().stream()
                .map(e -> e.getKey() + "=" + URLEncoder.encode(e.getValue(), StandardCharsets.UTF_8))
                .collect(Collectors.joining("&"));
        HttpRequest.Builder request = HttpRequest.newBuilder(URI.create(mock.host.base() + target))
                .header("Content-Type", "application/x-www-form-urlencoded")
                .POST(BodyPublishers.ofString(form));
        if (headers.length > 0) {
            request.headers(headers);
        }
        return browser.send(request.build(), BodyHandlers.ofString());
    }

    private static Map<String, String> fields(String page) {
        Map<String, String> fields = new LinkedHashMap<>();
        Matcher xml = Pattern.compile("(?s)<input type=\"hidden\" name=\"xml\" value=\"([^\"]*)\">")
                .matcher(page);
        assertThat(xml.find()).isTrue();
        fields.put("xml", unescaped(xml.group(1)));
        Matcher matcher = FIELD.matcher(page);
        while (matcher.find()) {
            fields.put(matcher.group(1), unescaped(matcher.group(2)));
        }
        return fields;
    }

    private static String unescaped(String text) {
        return text.replace("&lt;", "<")
                .replace("&gt;", ">")
                .replace("&quot;", "\"")
                .replace("&#39;", "'")
                .replace("&#x3D;", "=")
                .replace("&#x60;", "`")
                .replace("&amp;", "&");
    }

    private static String fieldOf(String page, String label) {
        Matcher matcher = Pattern.compile("for=\"(v\\d+)\">" + label + " <").matcher(page);
        assertThat(matcher.find()).as(label).isTrue();
        return matcher.group(1);
    }

    @Test
    void theIndexNamesServicesPortsAndOperations() throws Exception {
        mock.start(MockPlan.sampling("stay", 0), null);
        HttpResponse<String> page = get("/");
        assertThat(page.statusCode()).isEqualTo(200);
        assertThat(page.headers().firstValue("Content-Type")).hasValue("text/html; charset=utf-8");
        assertThat(page.headers().firstValue("Content-Security-Policy")).isPresent();
        assertThat(page.body())
                .contains("href=\"/stay?wsdl\"")
                .contains("href=\"/stay?try=Book\"")
                .contains(">Tell<");
        assertThat(get("/stay").body()).isEqualTo(page.body());
        assertThat(get("/nowhere").statusCode()).isEqualTo(404);
        assertThat(get("/stay?xsd=99").statusCode()).isEqualTo(404);
        assertThat(get("/stay?try=Nothing").statusCode()).isEqualTo(404);
    }

    @Test
    void anOperationIsTriedByItsFields() throws Exception {
        mock.answering(MockAnswer.otherwise("echo", "<said>{//*:hutId} for {//*:nights} & {count(//*:guest)}</said>"));
        String page = get("/stay?try=Book").body();
        Map<String, String> fields = fields(page);
        fields.put(fieldOf(page, "hutId"), "NF-42");
        fields.put(fieldOf(page, "nights"), "5");
        fields.put("do", "send");
        String answer = post("/stay?try=Book", fields);
        assertThat(answer).contains("status 200").contains("answer: echo").contains("NF-42 for 5");
        assertThat(fields(answer).get("xml")).contains(">NF-42<").contains(">5<");
        assertThat(mock.host.hits("Book")).isEqualTo(1);
    }

    @Test
    void partsAreAddedAndLeftOutWithoutScripts() throws Exception {
        mock.answering(MockAnswer.otherwise("echo", "<said>{count(//*:guest)}</said>"));
        String page = get("/stay?try=Book").body();
        long guests = count(page, "<st:guest>");
        Matcher more = Pattern.compile("value=\"(more:\\d+)\" aria-label=\"One more guest")
                .matcher(page);
        assertThat(more.find()).isTrue();
        Map<String, String> fields = fields(page);
        fields.put("do", more.group(1));
        String grown = post("/stay?try=Book", fields);
        assertThat(count(grown, "guest&gt;")).isGreaterThan(count(page, "guest&gt;"));
        assertThat(mock.host.hits("Book")).as("nothing was sent").isZero();
        assertThat(guests).isZero();
    }

    private static long count(String text, String part) {
        return Pattern.compile(Pattern.quote(part)).matcher(text).results().count();
    }

    @Test
    void whatIsTypedAsXmlIsSentAsItIsAndWhatCannotBeReadIsSaid() throws Exception {
        mock.answering(MockAnswer.otherwise("echo", "<said>{//*:hutId}</said>"));
        String sent = post("/stay?try=Book", Map.of("xml", MockUnderTest.book("<NF>", 1), "do", "send"));
        assertThat(sent).contains("cannot be read").doesNotContain("status 200");
        String fine = post("/stay?try=Book", Map.of("xml", MockUnderTest.book("NF-13", 1), "do", "send"));
        assertThat(fine).contains("status 200").contains("NF-13");
        assertThat(post("/stay?try=Book", Map.of("xml", "<script>alert(1)</script>", "do", "show")))
                .doesNotContain("<script>");
    }

    @Test
    void whatIsConcealedIsInNoDocumentAndRefused() throws Exception {
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.concealing(Set.of("Book"))), null);
        assertThat(get("/").body()).doesNotContain("try=Book").contains("try=Tell");
        assertThat(get("/stay?try=Book").statusCode()).isEqualTo(404);
        assertThat(mock.call(MockUnderTest.book("NF-07", 1)).statusCode()).isEqualTo(500);
        assertThat(read().operations()).containsOnlyKeys("Tell");
        mock.host.replace(MockPlan.sampling("stay", 0));
        assertThat(read().operations()).containsKeys("Book", "Tell");
        assertThat(mock.call(MockUnderTest.book("NF-07", 1)).statusCode()).isEqualTo(200);
    }

    private Contract read() {
        try (HttpCaller caller = new HttpCaller()) {
            return new ContractReader(HttpFetcher.forEverything(caller, 1 << 20))
                    .read(mock.host.wsdl(), Progress.NONE, new StopSignal());
        }
    }

    @Test
    void theContractSaysTheHostThatWasAskedBeforeWhereThatIsWanted() throws Exception {
        String[] forwarded = {"X-Forwarded-Host", "huts.example:444, inner", "X-Forwarded-Proto", "https"};
        mock.start(MockPlan.sampling("stay", 0), null);
        assertThat(get("/stay?wsdl", forwarded).body()).doesNotContain("huts.example");
        mock.host.replace(MockPlan.sampling("stay", 0).with(Conduct.USUAL.byForwarded(true)));
        assertThat(get("/stay?wsdl", forwarded).body()).contains("https://huts.example:444/stay");
        assertThat(get("/stay?wsdl", "X-Forwarded-Host", "a\" onload").body())
                .contains(mock.host.base() + "/stay")
                .doesNotContain("onload");
    }

    @Test
    void pathsAreSetAtWill() throws Exception {
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.at(Map.of("StaySoap11", "/v2/stays"))), null);
        assertThat(mock.host.addresses().get("StaySoap11")).endsWith("/v2/stays");
        assertThat(mock.call(MockUnderTest.book("NF-07", 1)).statusCode()).isEqualTo(200);
        assertThat(get("/v2/stays?wsdl").body()).contains("/v2/stays");
    }

    @Test
    void aPageIsNoCallAndItsHeadHasItsLength() throws IOException {
        mock.start(MockPlan.sampling("stay", 0), null);
        try (Socket socket = mock.connected()) {
            socket.getOutputStream()
                    .write("HEAD / HTTP/1.1\r\nHost: h\r\nConnection: close\r\n\r\n".getBytes(StandardCharsets.UTF_8));
            String head = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
            assertThat(head).startsWith("HTTP/1.1 200").endsWith("\r\n\r\n").containsPattern("content-length: \\d{4}");
        }
        assertThat(mock.host.answered()).isZero();
    }

    @Test
    void aLoginThatIsAskedForIsAskedOfTheBrowser() throws Exception {
        AskedLogin login = new AskedLogin(AskedLogin.Way.BASIC, "guide", "granite-17", false, "");
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.with(RequestRules.USUAL.with(login))), null);
        HttpResponse<String> page = get("/stay?try=Book");
        assertThat(page.statusCode()).as("the form is for everybody").isEqualTo(200);
        Map<String, String> fields = fields(page.body());
        fields.put("do", "send");
        HttpResponse<String> asked = posted("/stay?try=Book", fields);
        assertThat(asked.statusCode()).isEqualTo(401);
        assertThat(asked.headers().firstValue("WWW-Authenticate")).hasValue(Refusal.CHALLENGE);
        String right = Base64.getEncoder().encodeToString("guide:granite-17".getBytes(StandardCharsets.UTF_8));
        HttpResponse<String> answer = posted("/stay?try=Book", fields, "Authorization", "Basic " + right);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body())
                .contains("status 200")
                .contains("BookResponse")
                .doesNotContain(right);
    }

    @Test
    void anAnswersOwnStatusAsksNobodyToLogIn() throws Exception {
        mock.answering(MockAnswer.otherwise("closed", "<closed/>").with(AnswerHead.USUAL.withStatus(401)));
        Map<String, String> fields = fields(get("/stay?try=Book").body());
        fields.put("do", "send");
        HttpResponse<String> answer = posted("/stay?try=Book", fields);
        assertThat(answer.statusCode()).isEqualTo(200);
        assertThat(answer.body()).contains("status 401");
    }

    @Test
    void aTrialAsksForNothingThatIsNotKeptOfARequest() {
        AskedLogin login = new AskedLogin(AskedLogin.Way.BASIC, "guide", "granite-17", false, "");
        mock.start(MockPlan.sampling("stay", 0).with(Conduct.USUAL.with(RequestRules.USUAL.with(login))), null);
        String envelope = Envelope.around(SoapVersion.V11, MockUnderTest.book("NF-07", 2), List.of());
        Trial trial = mock.host.tried(Trial.typed(envelope));
        assertThat(trial.status()).isEqualTo(200);
        assertThat(trial.answer()).isZero();
    }
}
