package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.problem.Problem;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.HttpCaller;
import dev.mockbell.wire.HttpFetcher;
import dev.mockbell.wire.LoginAsker;
import dev.mockbell.wire.PlainServer;
import dev.mockbell.xml.XmlLimits;
import java.io.IOException;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * Everything that the reading of a contract can say, each with what makes it say so, in a file to be read by people:
 * {@code findings.txt} beside this class. When words change on purpose, the file that the failure names takes its place.
 */
class FindingWordsTest {
    private static final String CLEAN = """
            <definitions targetNamespace="urn:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:s" xmlns:t="urn:t"
              xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:t"><!--more--><xs:element name="Ask" type="xs:int"/></xs:schema></types>
              <message name="In"><part name="p" element="t:Ask"/></message>
              <portType name="P"><operation name="Do"><input message="tns:In"/><output message="tns:In"/></operation></portType>
              <binding name="B" type="tns:P"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Do"><soap:operation soapAction="do"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="S"><port name="One" binding="tns:B"><soap:address location="http://127.0.0.1:1/1"/></port></service>
            </definitions>
            """;
    private static final String NEWER = """
            <description xmlns="http://www.w3.org/ns/wsdl" targetNamespace="urn:s" xmlns:tns="urn:s" xmlns:t="urn:t"
              xmlns:xs="http://www.w3.org/2001/XMLSchema" xmlns:wsoap="http://www.w3.org/ns/wsdl/soap">
              <types><xs:schema targetNamespace="urn:t"><xs:element name="Ask" type="xs:int"/></xs:schema></types>
              <interface name="I"><operation name="Do" pattern="http://www.w3.org/ns/wsdl/in-out"><input element="t:Ask"/><output element="t:Ask"/></operation></interface>
              <binding name="B" interface="tns:I" type="http://www.w3.org/ns/wsdl/soap" wsoap:protocol="http://www.w3.org/2003/05/soap/bindings/HTTP/"/>
              <service name="S" interface="tns:I"><endpoint name="E" binding="tns:B" address="http://127.0.0.1:1/1"/></service>
            </description>
            """;

    private final Map<String, Supplier<String>> triggers = new LinkedHashMap<>();

    private void put(String name, Supplier<String> said) {
        assertThat(triggers.put(name, said)).as("the name is taken: " + name).isNull();
    }

    private void change(String name, String old, String fresh, String... documents) {
        assertThat(CLEAN).contains(old);
        text(name, CLEAN.replace(old, fresh), documents);
    }

    private void newer(String name, String old, String fresh) {
        assertThat(NEWER).contains(old);
        text(name, NEWER.replace(old, fresh));
    }

    private void schema(String name, String inside) {
        change(name, "<!--more-->", inside);
    }

    private void text(String name, String wsdl, String... documents) {
        String[] all =
                Stream.concat(Stream.of("a.wsdl", wsdl), Stream.of(documents)).toArray(String[]::new);
        put(name, () -> told(() -> Contracts.of(all)));
    }

    private void bytes(String name, byte[] bytes) {
        triggers.put(
                name,
                () -> told(() -> new ContractReader((uri, stop) -> new DocumentFetcher.Fetched(uri, bytes, ""))
                        .read("a.wsdl", URI.create("mem:/a.wsdl"), Progress.NONE, new StopSignal())));
    }

    private void at(String name, String address) {
        triggers.put(
                name,
                () -> told(() ->
                        new ContractReader(DocumentFetcher.files(100)).read(address, Progress.NONE, new StopSignal())));
    }

    /** An answer of a server in place of the WSDL. */
    private void served(String name, String answer) {
        put(name, () -> {
            ReadLimits limits = new ReadLimits(new XmlLimits(100, 1_000, 1_000, true), 10, Duration.ofSeconds(2));
            try (HttpCaller caller = new HttpCaller();
                    PlainServer server = PlainServer.says(answer)) {
                HttpFetcher fetcher = new HttpFetcher(() -> caller, limits, LoginAsker.NONE);
                String told =
                        told(() -> new ContractReader(fetcher).read(server.address(), Progress.NONE, new StopSignal()));
                return told.replaceAll("127\\.0\\.0\\.1:\\d+", "server");
            }
        });
    }

    private static String told(Supplier<Contract> reading) {
        try {
            StringBuilder out = new StringBuilder();
            for (Finding f : reading.get().findings()) {
                out.append(f.severity().name().toLowerCase(java.util.Locale.ROOT))
                        .append(' ')
                        .append(f.rule())
                        .append(" at ")
                        .append(f.place().toString().replaceFirst("^mem:/", ""))
                        .append("\n  ")
                        .append(f.text())
                        .append(".\n  → ")
                        .append(f.advice())
                        .append('\n');
            }
            return out.toString();
        } catch (Problem refused) {
            return "refused: " + refused.getMessage() + "\n";
        }
    }

    private void documents() {
        String far = "<import namespace='urn:b' location='%s'/><types>";
        change("an import of what is not there", "<types>", far.formatted("gone.wsdl"));
        change("an import that names no document", "<types>", "<import namespace='urn:b'/><types>");
        change("an import that is no address", "<types>", far.formatted("http://[oops"));
        change("an import of something else", "<types>", far.formatted("b.xml"), "b.xml", "<recipe/>");
        change("an import that is not well-formed", "<types>", far.formatted("b.wsdl"), "b.wsdl", "<definitions>");
        change("an import that is empty", "<types>", far.formatted("b.wsdl"), "b.wsdl", "");
        put(
                "an import of a file from the network",
                () -> told(() -> new ContractReader((uri, stop) -> new DocumentFetcher.Fetched(
                                uri,
                                CLEAN.replace("<types>", far.formatted("file:///secret.wsdl"))
                                        .getBytes(StandardCharsets.UTF_8),
                                ""))
                        .read(
                                "a.wsdl",
                                URI.create("http://northfell.example/a.wsdl"),
                                Progress.NONE,
                                new StopSignal())));
        put(
                "more documents than the limit",
                () -> told(() -> new ContractReader(
                                (uri, stop) -> new DocumentFetcher.Fetched(
                                        uri,
                                        CLEAN.replace("<types>", far.formatted("b.wsdl"))
                                                .getBytes(StandardCharsets.UTF_8),
                                        ""),
                                new ReadLimits(XmlLimits.CONTRACT, 1, Duration.ofSeconds(1)))
                        .read("a.wsdl", URI.create("mem:/a.wsdl"), Progress.NONE, new StopSignal())));
        text(
                "an entity that stands elsewhere",
                "<!DOCTYPE definitions [<!ENTITY more SYSTEM 'more.ent'>]>"
                        + CLEAN.replace("<types>", "<documentation>&more;</documentation><types>"));
        text("a document type that stands elsewhere", "<!DOCTYPE definitions SYSTEM 'w.dtd'>" + CLEAN);
        text("an encoding that nobody knows", "<?xml version='1.0' encoding='klingon'?>" + CLEAN);
        change(
                "a schema of a draft",
                "<!--more-->",
                "</xs:schema><d:schema xmlns:d='http://www.w3.org/2000/10/XMLSchema' targetNamespace='urn:d'><d:element name='Old' type='d:int'/></d:schema><xs:schema targetNamespace='urn:t2'>");
        schema(
                "a schema of a standard that is not brought along",
                "<xs:import namespace='http://www.w3.org/2005/08/addressing'/>");
        change(
                "a namespace that is used and not imported",
                "<!--more-->",
                "<xs:element name='Other' xmlns:u='urn:u' type='u:T'/></xs:schema><xs:schema targetNamespace='urn:u'><xs:simpleType name='T'><xs:restriction base='xs:int'/></xs:simpleType></xs:schema><xs:schema targetNamespace='urn:t3'>");
    }

    private void references() {
        change("a port whose binding is not there", "binding=\"tns:B\"", "binding='tns:Gone'");
        change("a port that names no binding", "binding=\"tns:B\"", "");
        change("a port without an address", "<soap:address location=\"http://127.0.0.1:1/1\"/>", "");
        change("a binding whose port type is not there", "type=\"tns:P\"", "type='tns:Gone'");
        change("a binding without a type", "type=\"tns:P\"", "");
        change(
                "a binding with an operation that the port type has not",
                "<operation name=\"Do\"><soap",
                "<operation name='Gone'><soap");
        change("a binding with an operation without a name", "<operation name=\"Do\"><soap", "<operation><soap");
        change("a message that is not there", "<input message=\"tns:In\"/>", "<input message='tns:Gone'/>");
        change("a message of an unknown prefix", "<input message=\"tns:In\"/>", "<input message='oops:In'/>");
        change("a message without a prefix", "<input message=\"tns:In\"/>", "<input message='In'/>");
        change("no message", "<input message=\"tns:In\"/>", "<input/>");
        change("an empty message", "<input message=\"tns:In\"/>", "<input message=''/>");
        change("two messages of a name", "<portType", "<message name='In'/><portType");
        change("a part whose element is not there", "element=\"t:Ask\"", "element='t:Gone'");
        change("a part whose type is not there", "element=\"t:Ask\"", "type='t:Gone'");
        change("a part of an unknown prefix", "element=\"t:Ask\"", "element='oops:Ask'");
        change(
                "a body with parts that are not there",
                "<input><soap:body use=\"literal\"/>",
                "<input><soap:body use='literal' parts='gone'/>");
        change(
                "a header whose part is not there",
                "<input><soap:body use=\"literal\"/>",
                "<input><soap:header message='tns:In' part='gone' use='literal'/><soap:body use='literal'/>");
        change(
                "a header without a part",
                "<input><soap:body use=\"literal\"/>",
                "<input><soap:header message='tns:In' use='literal'/><soap:body use='literal'/>");
        change(
                "a policy that is not there",
                "<soap:binding ",
                "<w:PolicyReference xmlns:w='http://www.w3.org/ns/ws-policy' URI='#gone'/><soap:binding ");
        change(
                "an extension that is required",
                "<soap:binding ",
                "<x:y xmlns:x='urn:x' xmlns:w='http://schemas.xmlsoap.org/wsdl/' w:required='true'/><soap:binding ");
        change("no service", CLEAN.substring(CLEAN.indexOf("<service"), CLEAN.indexOf("</service>") + 10), "");
        change(
                "a binding without a port",
                "</binding>",
                "</binding><binding name='Spare' type='tns:P'><soap:binding transport='http://schemas.xmlsoap.org/soap/http'/></binding>");
        text("neither a service nor a binding", CLEAN.substring(0, CLEAN.indexOf("<binding")) + "</definitions>");
        newer(
                "an interface that is not there, of a service",
                "<service name=\"S\" interface=\"tns:I\">",
                "<service name='S' interface='tns:Gone'>");
        newer(
                "an interface that is not there, of a binding",
                "<binding name=\"B\" interface=\"tns:I\"",
                "<binding name='B' interface='tns:Gone'");
        newer(
                "an interface that extends one that is not there",
                "<interface name=\"I\">",
                "<interface name='I' extends='tns:Gone'>");
        newer("an endpoint whose binding is not there", "binding=\"tns:B\"", "binding='tns:Gone'");
        newer("an operation that the interface has not", "HTTP/\"/>", "HTTP/\"><operation ref='tns:Gone'/></binding>");
        newer("an element that is not there, of an input", "<input element=\"t:Ask\"/>", "<input element='t:Gone'/>");
        newer(
                "a fault that is not there",
                "<output element=\"t:Ask\"/>",
                "<output element='t:Ask'/><outfault ref='tns:Gone'/>");
    }

    private void samples() {
        String ask = "<xs:element name=\"Ask\" type=\"xs:int\"/>";
        change(
                "what requires itself",
                ask,
                "<xs:element name='Ask'><xs:complexType><xs:sequence><xs:element ref='t:Ask'/></xs:sequence></xs:complexType></xs:element>");
        change("what has no value", ask, "<xs:element name='Ask' type='xs:ENTITY'/>");
        change("what is abstract", ask, "<xs:element name='Ask' type='xs:int' abstract='true'/>");
        change(
                "what nothing fills",
                ask,
                "<xs:element name='Ask'><xs:complexType><xs:sequence><xs:any namespace='urn:gone'/></xs:sequence></xs:complexType></xs:element>");
        change(
                "what is very large",
                ask,
                "<xs:element name='Ask'><xs:complexType><xs:sequence><xs:element name='a' minOccurs='9000' maxOccurs='9000'><xs:complexType><xs:sequence><xs:element name='b' minOccurs='20' maxOccurs='20'/></xs:sequence></xs:complexType></xs:element></xs:sequence></xs:complexType></xs:element>");
        change(
                "a count that is large",
                ask,
                "<xs:element name='Ask'><xs:complexType><xs:sequence><xs:element name='a' minOccurs='0' maxOccurs='99999999999999999999'/></xs:sequence></xs:complexType></xs:element>");
        change(
                "a least count that is large",
                ask,
                "<xs:element name='Ask'><xs:complexType><xs:sequence><xs:element name='a' minOccurs='20000' maxOccurs='unbounded'/></xs:sequence></xs:complexType></xs:element>");
        change(
                "a pattern that takes long",
                ask,
                "<xs:element name='Ask'><xs:simpleType><xs:restriction base='xs:string'><xs:pattern value='(a+)+b'/></xs:restriction></xs:simpleType></xs:element>");
        change(
                "a pattern that is too large",
                ask,
                "<xs:element name='Ask'><xs:simpleType><xs:restriction base='xs:string'><xs:pattern value='((a{1,900}){1,900}){1,900}'/></xs:restriction></xs:simpleType></xs:element>");
    }

    private void schemas() {
        String base =
                "<xs:complexType name='Base'><xs:sequence><xs:element name='x' type='xs:int'/></xs:sequence><xs:attribute name='k' type='xs:int'/></xs:complexType>";
        String more =
                "<xs:complexType name='More'><xs:complexContent><xs:extension base='t:Base'>%s</xs:extension></xs:complexContent></xs:complexType>";
        schema("a type that is not there", "<xs:element name='E' type='t:Gone'/>");
        schema("a type of no namespace", "<xs:element name='E' xmlns='' type='Gone'/>");
        schema(
                "a type of a namespace that is not there",
                "<xs:import namespace='urn:far'/><xs:element name='E' xmlns:f='urn:far' type='f:Gone'/>");
        schema(
                "an element that is not there",
                "<xs:complexType name='C'><xs:sequence><xs:element ref='t:Gone'/></xs:sequence></xs:complexType>");
        schema(
                "an attribute that is not there",
                "<xs:complexType name='C'><xs:attribute ref='t:gone'/></xs:complexType>");
        schema("a group that is not there", "<xs:complexType name='C'><xs:group ref='t:Gone'/></xs:complexType>");
        schema("a type of an unknown prefix", "<xs:element name='E' type='oops:T'/>");
        schema("a base that is not there", more.replace("t:Base", "t:Gone").formatted(""));
        schema("a value that an attribute cannot have", "<xs:element name='E' nillable='perhaps'/>");
        schema(
                "a count that is none",
                "<xs:complexType name='C'><xs:sequence><xs:element name='e' maxOccurs='many'/></xs:sequence></xs:complexType>");
        schema("an attribute that must be there", "<xs:complexType name='C'><xs:attributeGroup/></xs:complexType>");
        schema("an attribute that means nothing", "<xs:element name='E' occurs='3'/>");
        schema(
                "an element where it cannot stand",
                "<xs:complexType name='C'><xs:sequence><xs:attribute name='a'/></xs:sequence></xs:complexType>");
        schema("a group that lacks its content", "<xs:group name='G'/>");
        schema(
                "an element that is none of a schema",
                "<xs:complexType name='C'><xs:sequence/><xs:thing/></xs:complexType>");
        schema("an element too often", "<xs:complexType name='C'><xs:sequence/><xs:sequence/></xs:complexType>");
        schema("an empty derivation", "<xs:complexType name='C'><xs:complexContent/></xs:complexType>");
        schema("an import behind declarations", "<xs:element name='E'/><xs:import namespace='urn:far'/>");
        schema("an unknown child of a schema", "<xs:thing/>");
        schema("an all beside other content", base + more.formatted("<xs:all><xs:element name='y'/></xs:all>"));
        schema(
                "an all whose element repeats",
                "<xs:complexType name='C'><xs:all><xs:element name='y' maxOccurs='2'/></xs:all></xs:complexType>");
        schema("an attribute twice", base + more.formatted("<xs:attribute name='k' type='xs:int'/>"));
        schema(
                "an attribute twice in a group",
                "<xs:attributeGroup name='A'><xs:attribute name='k'/><xs:attribute name='k'/></xs:attributeGroup>");
        schema(
                "two identifiers",
                "<xs:complexType name='C'><xs:attribute name='i' type='xs:ID'/><xs:attribute name='j' type='xs:ID'/></xs:complexType>");
        schema(
                "a complex type derived from itself",
                more.replace("t:Base", "t:More").formatted(""));
        schema(
                "a simple type derived from itself",
                "<xs:simpleType name='T'><xs:restriction base='t:T'/></xs:simpleType>");
        schema(
                "a group that holds itself",
                "<xs:group name='G'><xs:sequence><xs:group ref='t:G'/></xs:sequence></xs:group>");
        schema(
                "an attribute group that holds itself",
                "<xs:attributeGroup name='A'><xs:attributeGroup ref='t:A'/></xs:attributeGroup>");
        schema(
                "an extension that is forbidden",
                base.replace("name='Base'", "name='Base' final='#all'") + more.formatted(""));
        schema(
                "a restriction that is forbidden",
                base.replace("name='Base'", "name='Base' final='#all'")
                        + more.replace("extension", "restriction").formatted(""));
        schema(
                "an extension that is not mixed",
                base.replace("name='Base'", "name='Base' mixed='true'")
                        + more.formatted("<xs:sequence><xs:element name='y'/></xs:sequence>"));
        schema(
                "an extension that is mixed",
                base
                        + more.replace("name='More'", "name='More' mixed='true'")
                                .formatted("<xs:sequence><xs:element name='y'/></xs:sequence>"));
        schema(
                "complexContent of a simple type",
                more.replace("t:Base", "xs:int").formatted(""));
        schema(
                "simpleContent of a complex type",
                base + more.replace("complexContent", "simpleContent").formatted(""));
        schema(
                "a default and a fixed value",
                "<xs:element name='E' type='xs:int' default='1' fixed='2'/><xs:attribute name='a' default='1' fixed='2'/>");
        schema(
                "a default value of what is required",
                "<xs:complexType name='C'><xs:attribute name='a' default='1' use='required'/></xs:complexType>");
        schema(
                "neither a name nor a ref",
                "<xs:complexType name='C'><xs:sequence><xs:element type='xs:int'/></xs:sequence><xs:attribute type='xs:int'/></xs:complexType>");
        schema(
                "a type by name and inside",
                "<xs:element name='E' type='xs:int'><xs:simpleType><xs:restriction base='xs:int'/></xs:simpleType></xs:element><xs:attribute name='a' type='xs:int'><xs:simpleType><xs:restriction base='xs:int'/></xs:simpleType></xs:attribute>");
        schema("a declaration twice", "<xs:element name='E'/><xs:element name='E'/>");
        schema(
                "a least count above the greatest",
                "<xs:complexType name='C'><xs:sequence><xs:element name='e' minOccurs='3' maxOccurs='2'/></xs:sequence></xs:complexType>");
        schema(
                "a facet that the type has not",
                "<xs:simpleType name='T'><xs:restriction base='xs:int'><xs:length value='2'/></xs:restriction></xs:simpleType>");
        schema(
                "a pattern that is none",
                "<xs:simpleType name='T'><xs:restriction base='xs:string'><xs:pattern value='[a'/></xs:restriction></xs:simpleType>");
        schema(
                "lengths that contradict",
                "<xs:simpleType name='T'><xs:restriction base='xs:string'><xs:minLength value='5'/><xs:maxLength value='2'/></xs:restriction></xs:simpleType>");
        schema(
                "a type of a namespace that is neither imported nor there",
                "<xs:element name='E' xmlns:f='urn:far' type='f:Gone'/>");
        schema("something that is of no schema", "<far xmlns='urn:far'/>");
        schema(
                "a facet that is none",
                "<xs:simpleType name='T'><xs:restriction base='xs:string'><xs:shortest value='5'/></xs:restriction></xs:simpleType>");
        schema(
                "limits that contradict",
                "<xs:simpleType name='T'><xs:restriction base='xs:int'><xs:minInclusive value='5'/><xs:maxInclusive value='2'/></xs:restriction></xs:simpleType>");
        schema(
                "an enumeration beyond its type",
                "<xs:simpleType name='T'><xs:restriction base='xs:int'><xs:enumeration value='few'/></xs:restriction></xs:simpleType>");
        schema(
                "a key that is not there",
                "<xs:element name='E'><xs:keyref name='r' refer='t:gone'><xs:selector xpath='a'/><xs:field xpath='b'/></xs:keyref></xs:element>");
        schema(
                "a path that a key cannot have",
                "<xs:element name='E'><xs:key name='k'><xs:selector xpath='a[1]'/><xs:field xpath='b'/></xs:key></xs:element>");
    }

    private void refusals() {
        bytes("an empty document", new byte[0]);
        bytes("a gzip file", new byte[] {0x1f, (byte) 0x8b, 8, 0});
        bytes("a zip archive", "PK\3\4xx".getBytes(StandardCharsets.ISO_8859_1));
        bytes("binary data", new byte[] {1, 2, 3, 4});
        text("a web page", "<!DOCTYPE html><html><body>Welcome</body></html>");
        text("a login page", "<html><body><input type='password'></body></html>");
        text("plain text", "Not found, sorry.");
        text("a schema", "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'/>");
        text("a SOAP message", "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'/>");
        text("another XML document", "<recipe/>");
        text("XML that is not well-formed", CLEAN.replace("</types>", ""));
        text("an entity that swells", "<!DOCTYPE d [<!ENTITY a 'aaaaaaaaaa'>" + swelling() + "]><d>&j;</d>");
        at("no address", "  ");
        at("a file that is not there", "no-such-folder/a.wsdl");
        at("a folder", ".");
        at("a file that is too large", "pom.xml");
        at("a device", "/dev/null");
        at("an address of another kind", "ftp://northfell.example/a.wsdl");
        at("an address that is none", "http://[oops");
        at("a file name that is none", "a\0b");
        served("a login asked for", status("401 Unauthorized", "WWW-Authenticate: Basic realm=\"huts\"\r\n"));
        served("no access", status("403 Forbidden", ""));
        served("nothing there", status("404 Not Found", ""));
        served("a proxy's login", status("407 Proxy Authentication Required", ""));
        served("a failing server", status("500 Internal Server Error", ""));
        served("a circle of addresses", status("302 Found", "Location: /again\r\n"));
        served("a document beyond the limit", "HTTP/1.1 200 OK\r\nContent-Length: 2000\r\n\r\n" + "x".repeat(2_000));
        served("no HTTP", "220 mail.northfell.example ready\r\n");
        put("nobody there", () -> {
            try (HttpCaller caller = new HttpCaller()) {
                return told(() -> new ContractReader(new HttpFetcher(() -> caller, ReadLimits.USUAL, LoginAsker.NONE))
                        .read("http://127.0.0.1:1/a?wsdl", Progress.NONE, new StopSignal()));
            }
        });
    }

    private static String status(String line, String headers) {
        return "HTTP/1.1 " + line + "\r\n" + headers + "Content-Length: 0\r\n\r\n";
    }

    private static String swelling() {
        StringBuilder all = new StringBuilder();
        for (char c = 'b'; c <= 'j'; c++) {
            all.append("<!ENTITY ")
                    .append(c)
                    .append(" '")
                    .append(("&" + (char) (c - 1) + ";").repeat(10))
                    .append("'>");
        }
        return all.toString();
    }

    private String everything() {
        documents();
        references();
        samples();
        schemas();
        refusals();
        String here = Path.of("").toAbsolutePath().toString();
        StringBuilder out = new StringBuilder();
        triggers.forEach((name, said) -> out.append("## ")
                .append(name)
                .append('\n')
                .append(said.get().replace(here, "…"))
                .append('\n'));
        return out.toString();
    }

    @Test
    void everyMessageIsAsItStandsInTheFile() throws IOException {
        String said = everything();
        Path file = Path.of("src/test/resources/dev/mockbell/contract/findings.txt");
        String written = Files.exists(file) ? Files.readString(file) : "";
        if (!said.equals(written)) {
            Path fresh = Path.of("target/findings.txt");
            Files.createDirectories(fresh.getParent());
            Files.writeString(fresh, said);
        }
        assertThat(said).as("what is said now is in target/findings.txt").isEqualTo(written);
    }

    @Test
    void nothingSaidIsHalfASentenceOrNamesWhatIsOnlyInHere() {
        Pattern bad = Pattern.compile(
                "\\.\\.(?!\\.)| \\.|mockbell:|(?<!/dev/)\\bnull\\b|\\{[0-9]\\}|: :|cvc-|Recorded reason|Exception|XX");
        everything().lines().forEach(line -> assertThat(line.strip()).doesNotContainPattern(bad));
    }

    /** The rules that the reader names in its source must all be in the file, so that none is forgotten. */
    @Test
    void everyRuleOfTheReaderIsInTheFile() throws IOException {
        Set<String> named = new TreeSet<>();
        Pattern rule = Pattern.compile(
                "(?:findings\\.add|\\.error|\\.warn|\\.finding|\\.unresolved|note|flaw|new SchemaFlaw)\\(\\s*(?:[\\w.]+,\\s*)?\"([a-z]+(?:-[a-z]+)*)\"");
        for (String folder : List.of("contract", "schema")) {
            try (Stream<Path> files = Files.list(Path.of("src/main/java/dev/mockbell/" + folder))) {
                for (Path file : files.toList()) {
                    Matcher found = rule.matcher(Files.readString(file).replaceAll("//.*", ""));
                    while (found.find()) {
                        named.add(found.group(1));
                    }
                }
            }
        }
        String said = everything();
        // said when the library itself fails, which cannot be had at will
        assertThat(named.remove("schema")).isTrue();
        assertThat(named).hasSizeGreaterThan(20);
        assertThat(named).filteredOn(r -> !said.contains(" " + r + " at ")).isEmpty();
    }
}
