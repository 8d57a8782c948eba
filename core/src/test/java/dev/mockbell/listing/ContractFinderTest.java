package dev.mockbell.listing;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import dev.mockbell.assembly.Core;
import dev.mockbell.contract.Contracts;
import dev.mockbell.contract.ReadLimits;
import dev.mockbell.problem.Problem;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.LoginAsker;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Listings of several makes, served on the loopback address. */
class ContractFinderTest {
    private static final String WSDL = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:string'/>"));
    private static final String UDDI = "urn:uddi-org:api_v3";

    @TempDir
    Path folder;

    private final Map<String, String> pages = new HashMap<>();
    private final List<String> asked = Collections.synchronizedList(new ArrayList<>());
    private final HttpCaller caller = new HttpCaller();
    private HttpServer server;

    @BeforeEach
    void serve() throws IOException {
        server = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        server.createContext("/", this::answer);
        server.setExecutor(Executors.newCachedThreadPool());
        server.start();
    }

    @AfterEach
    void stop() {
        server.stop(0);
        caller.close();
    }

    private void answer(HttpExchange exchange) throws IOException {
        String target = exchange.getRequestURI().toString();
        String body = new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8);
        asked.add(target + " " + body);
        String page = pages.get(body.isEmpty() ? target : registryKey(body));
        byte[] bytes = (page == null ? "nothing here" : page).getBytes(StandardCharsets.UTF_8);
        exchange.getResponseHeaders()
                .set("Content-Type", page != null && page.startsWith("<html") ? "text/html" : "text/xml");
        exchange.sendResponseHeaders(page == null ? 404 : 200, bytes.length);
        exchange.getResponseBody().write(bytes);
        exchange.close();
    }

    /** The message that a registry is asked by, with the number that a page of it begins with. */
    private static String registryKey(String body) {
        for (String message : List.of("find_service", "get_serviceDetail", "get_tModelDetail")) {
            if (body.contains("<" + message + " ")) {
                int head = body.indexOf("listHead=\"");
                return message + (head < 0 ? "" : " " + body.substring(head + 10, body.indexOf('"', head + 10)));
            }
        }
        return "";
    }

    private String address(String path) {
        return "http://127.0.0.1:" + server.getAddress().getPort() + path;
    }

    private Listing find(String address) {
        return find(address, FinderListener.NONE);
    }

    private Listing find(String address, FinderListener listener) {
        return Core.finder(() -> caller, ReadLimits.USUAL, LoginAsker.NONE).find(address, listener, new StopSignal());
    }

    private void contract(String path, String service) {
        pages.put(path, WSDL.replace("service name=\"S\"", "service name=\"" + service + "\""));
    }

    @Test
    void aStacksListOfServicesGivesItsContractsOnceEach() {
        contract("/huts?wsdl", "Huts");
        contract("/trails?wsdl", "Trails");
        pages.put("/services", """
                <html><head><title>Services</title></head><body><table>
                <tr><td>Huts<ul><li>find</li></ul></td><td>Endpoint address: http://127.0.0.1/huts
                  WSDL: <a href="/huts?wsdl">{urn:n}Huts</a> <a href="/huts?singleWsdl">one file</a></td></tr>
                <tr><td>Trails</td><td><a href="trails?wsdl">wsdl</a></td></tr>
                <tr><td>Mail</td><td><a href="mailto:huts@northfell">write to us</a> <a href="javascript:alert(1)">x</a>
                  <a href="file:///etc/hut.wsdl">a file</a> <a href="http://[bad?wsdl">bad</a></td></tr></table></body></html>""");
        Listing found = find(address("/services"));
        assertThat(found.kind()).isEqualTo(Listing.Kind.PAGE);
        assertThat(found.contracts()).extracting(FoundContract::name).containsExactly("Huts", "Trails");
        assertThat(found.contracts().get(0).words()).isEqualTo("1 operation · document/literal · 1.1");
        assertThat(found.contracts().get(1).address()).isEqualTo(address("/trails?wsdl"));
    }

    @Test
    void aWsdlOfOtherCapitalsIsFoundAndOneThatIsGoneSaysWhy() {
        contract("/weather?wsdl", "Weather");
        pages.put(
                "/",
                "<html><a href='/Weather?wsdl'>Weather</a> <a href='/old?wsdl'>Old</a> <a href='/page?wsdl'>A page</a></html>");
        pages.put("/page?wsdl", "<html><body>log in please</body></html>");
        Listing found = find(address("/"));
        assertThat(found.readable()).isEmpty();
        assertThat(found.contracts()).extracting(FoundContract::name).containsExactly("Weather", "Old", "A page");
        assertThat(found.contracts().get(0).instead()).contains(address("/weather?wsdl"));
        assertThat(found.contracts().get(0).words()).contains("/weather?wsdl answers");
        assertThat(found.contracts().get(1).instead()).isEmpty();
        assertThat(found.contracts().get(1).words()).contains("404");
        assertThat(found.contracts().get(2).words()).contains("login page");
    }

    @Test
    void linksToServicesAreTriedWithTheUsualQueryAndLeftOutWhereNothingIsThere() {
        contract("/app/Huts.asmx?wsdl", "Huts");
        pages.put("/app/", "<html><a href='Huts.asmx'>Huts.asmx</a> <a href='Other.svc'>Other.svc</a></html>");
        assertThat(find(address("/app/")).contracts())
                .extracting(FoundContract::name)
                .containsExactly("Huts");
    }

    @Test
    void listsBelowAreFollowedAndThoseElsewhereAreNot() {
        contract("/a/b/huts.wsdl", "Huts");
        pages.put("/a/", "<html><a href='b/'>b</a> <a href='../'>up</a> <a href='/z/'>elsewhere</a></html>");
        pages.put("/a/b/", "<html><a href='huts.wsdl'>huts</a> <a href='/a/'>back</a></html>");
        assertThat(find(address("/a/")).contracts())
                .extracting(FoundContract::name)
                .containsExactly("Huts");
        assertThat(asked).noneMatch(a -> a.startsWith("/z/") || a.startsWith("/ "));
    }

    @Test
    void anAddressInTheTextOfAPageIsOne() {
        contract("/huts?wsdl", "Huts");
        pages.put("/", "<html><pre>The WSDL: " + address("/huts?wsdl") + ", as agreed.</pre></html>");
        assertThat(find(address("/")).contracts())
                .extracting(FoundContract::name)
                .containsExactly("Huts");
    }

    @Test
    void inspectionAndDiscoveryDocumentsAreRead() {
        contract("/huts?wsdl", "Huts");
        contract("/trails?wsdl", "Trails");
        pages.put("/inspection.wsil", """
                <inspection xmlns="http://schemas.xmlsoap.org/ws/2001/10/inspection/"><service><name>Huts</name>
                <description referencedNamespace="http://schemas.xmlsoap.org/wsdl/" location="/huts?wsdl"/>
                <description referencedNamespace="urn:uddi-org:api" location="http://127.0.0.1:1/none"/></service>
                <link referencedNamespace="http://schemas.xmlsoap.org/ws/2001/10/inspection/" location="more.disco"/></inspection>""");
        pages.put(
                "/more.disco",
                "<discovery xmlns='http://schemas.xmlsoap.org/disco/'><contractRef xmlns='http://schemas.xmlsoap.org/disco/scl/' ref='/trails?wsdl'/><discoveryRef ref='/inspection.wsil'/></discovery>");
        Listing found = find(address("/inspection.wsil"));
        assertThat(found.kind()).isEqualTo(Listing.Kind.INSPECTION);
        assertThat(found.contracts()).extracting(FoundContract::name).containsExactly("Huts", "Trails");
    }

    private static String soap(String inside) {
        return "<s:Envelope xmlns:s='http://schemas.xmlsoap.org/soap/envelope/'><s:Body>" + inside
                + "</s:Body></s:Envelope>";
    }

    private static String infos(int from, int count, int actual) {
        StringBuilder infos = new StringBuilder();
        for (int i = from; i < from + count; i++) {
            infos.append("<serviceInfo serviceKey='uddi:n:").append(i).append("' businessKey='uddi:n:b'/>");
        }
        return soap("<serviceList xmlns='" + UDDI + "'><listDescription><includeCount>" + count
                + "</includeCount><actualCount>" + actual + "</actualCount><listHead>" + from
                + "</listHead></listDescription><serviceInfos>" + infos + "</serviceInfos></serviceList>");
    }

    private String binding(String access, String type, String more) {
        return "<bindingTemplates><bindingTemplate><accessPoint useType='" + type + "'>" + access + "</accessPoint>"
                + more + "</bindingTemplate></bindingTemplates>";
    }

    @Test
    void aRegistryIsAskedPageByPageForServicesAndWhatDescribesThem() {
        contract("/huts?wsdl", "Huts");
        contract("/trails?wsdl", "Trails");
        contract("/ferry?wsdl", "Ferry");
        pages.put("find_service 1", infos(1, 2, 3));
        pages.put("find_service 3", infos(3, 1, 3));
        pages.put(
                "get_serviceDetail",
                soap("<serviceDetail xmlns='" + UDDI + "'>"
                        + "<businessService serviceKey='uddi:n:1'><name>Huts of the fells</name>"
                        + binding(address("/huts?wsdl"), "wsdlDeployment", "") + "</businessService>"
                        + "<businessService serviceKey='uddi:n:2'><name>Trails</name>"
                        + binding(
                                address("/trails"),
                                "endPoint",
                                "<tModelInstanceDetails><tModelInstanceInfo tModelKey='uddi:n:t'/></tModelInstanceDetails>")
                        + "</businessService><businessService serviceKey='uddi:n:3'><name>Ferry</name>"
                        + binding(address("/ferry"), "endPoint", "") + "</businessService></serviceDetail>"));
        pages.put(
                "get_tModelDetail",
                soap("<tModelDetail xmlns='" + UDDI
                        + "'><tModel tModelKey='uddi:n:t'><name>t</name><overviewDoc><overviewURL useType='wsdlInterface'>"
                        + address("/trails?wsdl")
                        + "#xpointer(1)</overviewURL></overviewDoc></tModel></tModelDetail>"));
        Listing found = find(address("/uddi/inquiry"));
        assertThat(found.kind()).isEqualTo(Listing.Kind.REGISTRY);
        assertThat(found.contracts()).extracting(FoundContract::name).containsExactly("Huts", "Trails", "Ferry");
        assertThat(asked).filteredOn(a -> a.contains("<find_service")).hasSize(2);
    }

    @Test
    void aRegistryThatRefusesSaysWhy() {
        pages.put(
                "find_service 1",
                soap(
                        "<s:Fault><faultcode>s:Client</faultcode><faultstring>Client Error</faultstring><detail><dispositionReport xmlns='"
                                + UDDI
                                + "'><result errno='10120'><errInfo errCode='E_authTokenRequired'>log in first</errInfo></result></dispositionReport></detail></s:Fault>"));
        assertThatThrownBy(() -> find(address("/uddi/inquiry")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("log in first");
    }

    @Test
    void aFolderListsTheContractsInIt() throws IOException {
        Files.createDirectories(folder.resolve("huts/old"));
        Files.writeString(folder.resolve("huts/a.wsdl"), WSDL);
        Files.writeString(folder.resolve("huts/old/b.WSDL"), WSDL.replace("\"S\"", "\"Old\""));
        Files.writeString(folder.resolve("huts/c.wsdl"), "<html/>");
        Files.writeString(folder.resolve("huts/d.xml"), WSDL);
        Listing found = find(folder.toString());
        assertThat(found.kind()).isEqualTo(Listing.Kind.FOLDER);
        assertThat(found.contracts()).extracting(FoundContract::name).containsExactly("S", "huts/c.wsdl", "Old");
    }

    @Test
    void aWsdlListsItselfAndAPageWithoutAnySaysSo() {
        contract("/huts?wsdl", "Huts");
        assertThat(find(address("/huts?wsdl")).kind()).isEqualTo(Listing.Kind.WSDL);
        pages.put("/empty", "<html><p>Nothing</p></html>");
        assertThatThrownBy(() -> find(address("/empty"))).hasMessageContaining("lists no contract");
        assertThatThrownBy(() -> find(address("/none"))).hasMessageContaining("404");
        pages.put("/uddi", "<html/>");
        assertThatThrownBy(() -> find(address("/uddi"))).hasMessageContaining("No UDDI version 3 registry");
    }

    @Test
    void aPageOfThousandsOfLinksIsReadUpToABoundAndTheRestCounted() {
        StringBuilder page = new StringBuilder("<html>");
        for (int i = 0; i < 2_000; i++) {
            page.append("<a href='/s").append(i).append("?wsdl'>s</a>");
        }
        pages.put("/many", page.toString());
        Listing found = find(address("/many"));
        assertThat(found.contracts()).hasSize(ContractFinder.MOST_CONTRACTS);
        assertThat(found.more()).isEqualTo(2_000 - ContractFinder.MOST_CONTRACTS);
    }

    @Test
    void whatIsFoundIsHeardOfAndAStopEndsTheSearch() {
        contract("/huts?wsdl", "Huts");
        pages.put("/", "<html><a href='/huts?wsdl'>Huts</a><a href='/old?wsdl'>Old</a></html>");
        List<String> heard = Collections.synchronizedList(new ArrayList<>());
        find(address("/"), new FinderListener() {
            @Override
            public void at(String text) {
                heard.add(text);
            }

            @Override
            public void found(FoundContract contract) {
                heard.add("found " + contract.name());
            }
        });
        assertThat(heard).contains("found Huts", "found Old").anyMatch(h -> h.startsWith("reading "));
        StopSignal stop = new StopSignal();
        stop.stop();
        assertThatThrownBy(() -> Core.finder(() -> caller, ReadLimits.USUAL, LoginAsker.NONE)
                        .find(address("/"), FinderListener.NONE, stop))
                .isInstanceOfSatisfying(Problem.class, p -> assertThat(p.kind()).isEqualTo(Problem.Kind.STOPPED));
    }
}
