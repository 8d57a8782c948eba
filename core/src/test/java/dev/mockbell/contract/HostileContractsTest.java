package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Contracts that are out to hurt: each gives a sentence or a finding, soon, and touches nothing else. */
@Timeout(20)
class HostileContractsTest {
    private static final String PLAIN = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:string'/>"));

    private static String sample(Contract contract) {
        return SampleBuilder.text(
                MessageOutline.of(
                        contract,
                        contract.operation("Do", null)
                                .orElseThrow()
                                .operation()
                                .input()
                                .orElseThrow()),
                Detail.FULL);
    }

    private static Contract read(byte[] bytes, String contentType) {
        return new ContractReader((uri, stop) -> new DocumentFetcher.Fetched(uri, bytes, contentType))
                .read("m", URI.create("mem:/m"), Progress.NONE, new StopSignal());
    }

    @Test
    void entitiesThatMultiplyAreStopped() {
        StringBuilder dtd = new StringBuilder("<!DOCTYPE d [<!ENTITY a0 'hahaha'>");
        for (int i = 1; i < 12; i++) {
            dtd.append("<!ENTITY a")
                    .append(i)
                    .append(" '")
                    .append(("&a" + (i - 1) + ";").repeat(10))
                    .append("'>");
        }
        assertThatThrownBy(() -> Contracts.of(
                        "a.wsdl", dtd + "]>" + PLAIN.replace("<types>", "<documentation>&a11;</documentation><types>")))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("entities expand beyond the limit");
        String wide = "<!DOCTYPE d [<!ENTITY a '" + "x".repeat(100_000) + "'>]>"
                + PLAIN.replace("<types>", "<documentation>" + "&a;".repeat(500) + "</documentation><types>");
        assertThatThrownBy(() -> Contracts.of("a.wsdl", wide))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("entities expand beyond the limit");
    }

    @Test
    void externalEntitiesAndDocumentTypesAreNeverFollowed(@TempDir Path folder) throws Exception {
        Path secret = Files.writeString(folder.resolve("secret.txt"), "hidden");
        List<URI> asked = new ArrayList<>();
        String text = "<!DOCTYPE definitions SYSTEM 'http://127.0.0.1:9/x.dtd' [<!ENTITY s SYSTEM '" + secret.toUri()
                + "'><!ENTITY % p SYSTEM 'http://127.0.0.1:9/p'> %p;]>"
                + PLAIN.replace("<types>", "<documentation>[&s;]</documentation><types>");
        Contract contract = new ContractReader((uri, stop) -> {
                    asked.add(uri);
                    return new DocumentFetcher.Fetched(uri, text.getBytes(StandardCharsets.UTF_8), "");
                })
                .read("m", URI.create("mem:/m"), Progress.NONE, new StopSignal());
        assertThat(asked).containsExactly(URI.create("mem:/m"));
        assertThat(sample(contract)).doesNotContain("hidden");
    }

    @Test
    void anInternalSubsetIsRead() {
        Contract contract = Contracts.of(
                "a.wsdl",
                PLAIN.replace("<types>", "<types>")
                        .replace(
                                "<definitions",
                                "<!DOCTYPE definitions [<!ENTITY where 'urn:t'><!ATTLIST x y ID #IMPLIED>]><definitions"));
        assertThat(contract.ports()).hasSize(1);
    }

    @Test
    void nestingBeyondTheLimitIsTold() {
        String deep = PLAIN.replace(
                "<types>",
                "<documentation>" + "<a>".repeat(20_000) + "</a>".repeat(20_000) + "</documentation><types>");
        assertThatThrownBy(() -> Contracts.of("a.wsdl", deep))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("nested more than 1000 deep");
        String schema =
                "<xs:sequence>".repeat(900) + "<xs:element name='x' type='xs:int'/>" + "</xs:sequence>".repeat(900);
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(Contracts.schema(
                        "<xs:element name='Root'><xs:complexType>" + schema + "</xs:complexType></xs:element>")));
        assertThat(sample(contract)).contains("<t:x>");
    }

    @Test
    void cyclesAndSelfImportsEnd() {
        Contract contract = Contracts.of(
                "a.wsdl",
                PLAIN.replace(
                        "<types>",
                        "<import namespace='urn:t:service' location='a.wsdl'/><import namespace='urn:b' location='b.wsdl'/><types>"),
                "b.wsdl",
                "<definitions xmlns='http://schemas.xmlsoap.org/wsdl/' targetNamespace='urn:b'><import namespace='urn:t:service' location='a.wsdl'/>"
                        + "<types><xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:c'><xs:include schemaLocation='c.xsd'/></xs:schema></types></definitions>",
                "c.xsd",
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:c'><xs:include schemaLocation='c.xsd'/><xs:import namespace='urn:c' schemaLocation='c.xsd'/></xs:schema>");
        assertThat(contract.ports()).hasSize(1);
        assertThat(contract.documents()).hasSize(3);
    }

    @ParameterizedTest
    @ValueSource(strings = {"(a+)+b", "((a*)*)*c", "([a-zA-Z]+)*1", "(a|aa)+0", "((a{1000}){1000}){1000}"})
    void catastrophicPatternsHangNothing(String pattern) {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema("<xs:simpleType name='P'><xs:restriction base='xs:string'><xs:pattern value='"
                                + pattern + "'/></xs:restriction></xs:simpleType>"
                                + "<xs:simpleType name='E'><xs:restriction base='t:P'><xs:enumeration value='"
                                + "a".repeat(60) + "!'/></xs:restriction></xs:simpleType>"
                                + "<xs:element name='Root'><xs:complexType><xs:sequence><xs:element name='reservationCodeOfTheGuestWhoComesLast' type='t:P'/></xs:sequence>"
                                + "<xs:attribute name='d' type='t:P' default='" + "a".repeat(60)
                                + "!'/></xs:complexType></xs:element>")));
        assertThat(contract.findings()).extracting(Finding::rule).contains("dear-pattern");
        assertThat(sample(contract)).contains("reservationCode");
    }

    @Test
    void aPatternThatIsNotCompiledIsStillHeldAgainstValues() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:simpleType name='P'><xs:restriction base='xs:string'><xs:pattern value='(a+)+b'/></xs:restriction></xs:simpleType><xs:element name='Root' type='t:P'/>")));
        var type = contract.schemas()
                .type(new javax.xml.namespace.QName("urn:t", "P"))
                .orElseThrow()
                .simple()
                .orElseThrow();
        assertThat(type.patterns()).containsExactly("(a+)+b");
        assertThat(type.whyNot("aab")).isEmpty();
        assertThat(type.whyNot("a".repeat(2_000))).isPresent();
        assertThat(sample(contract)).contains(">ab<");
    }

    @Test
    void aHugeMinOccursInNestedGroupsIsBounded() {
        Contract contract = Contracts.of(
                "a.wsdl",
                Contracts.wsdl(
                        Contracts.schema(
                                "<xs:element name='Root'><xs:complexType><xs:sequence minOccurs='1000000' maxOccurs='1000000'><xs:sequence minOccurs='1000000' maxOccurs='99999999999999999999'>"
                                        + "<xs:element name='x' type='xs:int' minOccurs='1000000' maxOccurs='1000000'/></xs:sequence></xs:sequence></xs:complexType></xs:element>")));
        assertThat(contract.findings()).extracting(Finding::rule).contains("large-count");
        assertThat(sample(contract)).hasSizeLessThan(20_000_000);
    }

    @ParameterizedTest
    @ValueSource(ints = {1, 40, 200, 700})
    void aTruncatedDocumentIsRefusedWithItsPlace(int length) {
        assertThatThrownBy(() -> read(PLAIN.substring(0, length).getBytes(StandardCharsets.UTF_8), ""))
                .isInstanceOf(Problem.class)
                .hasMessageMatching("(?s).*(not well-formed|plain text).*");
    }

    @Test
    void wronglyEncodedBytesAreTold() {
        byte[] latin = PLAIN.replace("<types>", "<documentation>Fjällbäcken</documentation><types>")
                .getBytes(StandardCharsets.ISO_8859_1);
        assertThatThrownBy(() -> read(latin, "")).isInstanceOf(Problem.class).hasMessageContaining("mem:/m");
        assertThat(read(latin, "text/xml; charset=iso-8859-1").ports()).hasSize(1);
    }

    @Test
    void adeclaredEncodingThatCannotBeIsReadAllTheSame() {
        byte[] bytes = ("<?xml version='1.0' encoding='utf-16'?>" + PLAIN).getBytes(StandardCharsets.UTF_8);
        Contract contract = read(bytes, "");
        assertThat(contract.ports()).hasSize(1);
        assertThat(contract.findings()).extracting(Finding::rule).contains("encoding");
    }

    @Test
    void emptyLinesBeforeTheXmlDeclarationAreForgiven() {
        Contract contract =
                read(("\r\n\n<?xml version='1.0' encoding='utf-8'?>\n" + PLAIN).getBytes(StandardCharsets.UTF_8), "");
        assertThat(contract.ports()).hasSize(1);
        assertThat(contract.ports().get(0).place().line()).isGreaterThan(4);
    }

    @Test
    void anImportThatNeverAnswersIsWaitedForOnceAServer() {
        List<URI> asked = new ArrayList<>();
        StringBuilder imports = new StringBuilder();
        for (int i = 0; i < 50; i++) {
            imports.append("<xs:import namespace='urn:n")
                    .append(i)
                    .append("' schemaLocation='http://127.0.0.1:9/")
                    .append(i)
                    .append(".xsd'/>");
        }
        String text = Contracts.wsdl(Contracts.schema(imports + "<xs:element name='Root' type='xs:int'/>"));
        Contract contract = new ContractReader((uri, stop) -> {
                    asked.add(uri);
                    if (uri.toString().startsWith("http")) {
                        throw Problem.of(Problem.Kind.NO_ANSWER, "No answer came within 1 s", uri.toString(), "", null);
                    }
                    return new DocumentFetcher.Fetched(uri, text.getBytes(StandardCharsets.UTF_8), "");
                })
                .read("m", URI.create("mem:/m"), Progress.NONE, new StopSignal());
        assertThat(asked).hasSize(2);
        assertThat(contract.findings())
                .filteredOn(f -> f.rule().equals("missing-import"))
                .hasSize(50);
        assertThat(sample(contract)).contains("<t:Root");
    }

    @Test
    void morethanTheMostDocumentsAreLeftOut() {
        ReadLimits few = new ReadLimits(ReadLimits.USUAL.document(), 10, Duration.ofSeconds(1));
        Contract contract = new ContractReader(
                        (uri, stop) -> {
                            int number = uri.toString().equals("mem:/m")
                                    ? 0
                                    : Integer.parseInt(uri.getPath().replaceAll("\\D", ""));
                            String next = "<xs:import namespace='urn:" + number + "' schemaLocation='" + (number + 1)
                                    + ".xsd'/>";
                            String text = number == 0
                                    ? Contracts.wsdl(Contracts.schema(next + "<xs:element name='Root' type='xs:int'/>"))
                                    : "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:"
                                            + (number - 1) + "'>" + next + "</xs:schema>";
                            return new DocumentFetcher.Fetched(uri, text.getBytes(StandardCharsets.UTF_8), "");
                        },
                        few)
                .read("m", URI.create("mem:/m"), Progress.NONE, new StopSignal());
        assertThat(contract.documents()).hasSize(10);
        assertThat(contract.findings()).extracting(Finding::rule).contains("too-many");
    }

    @Test
    void aFileThatImportsItselfIsOneDocument(@TempDir Path folder) throws Exception {
        Path file = Files.writeString(
                folder.resolve("self.wsdl"),
                PLAIN.replace("<types>", "<import namespace='urn:t:service' location='self.wsdl'/><types>"));
        Contract contract = new ContractReader(DocumentFetcher.files(1 << 20))
                .read(file.toString(), Progress.NONE, new StopSignal());
        assertThat(contract.documents()).hasSize(1);
        assertThat(Export.files(contract, Export.Form.REWRITTEN, a -> a)).hasSize(1);
    }

    @Test
    void binaryDataIsCalledThat() {
        byte[] bytes = new byte[600];
        for (int i = 0; i < bytes.length; i++) {
            bytes[i] = (byte) i;
        }
        assertThatThrownBy(() -> read(bytes, "")).isInstanceOf(Problem.class).hasMessageContaining("binary");
    }

    @Test
    void aPipeIsNotRead(@TempDir Path folder) throws Exception {
        Path pipe = folder.resolve("pipe.wsdl");
        assertThat(new ProcessBuilder("mkfifo", pipe.toString()).start().waitFor())
                .isZero();
        assertThatThrownBy(() -> new ContractReader(DocumentFetcher.files(1_000))
                        .read(pipe.toString(), Progress.NONE, new StopSignal()))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("not a plain file");
    }

    @Test
    void adocumentAboveTheLimitIsTold(@TempDir Path folder) throws Exception {
        Path large = Files.writeString(folder.resolve("large.wsdl"), PLAIN + " ".repeat(5_000));
        assertThatThrownBy(() -> new ContractReader(DocumentFetcher.files(2_000))
                        .read(large.toString(), Progress.NONE, new StopSignal()))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("limit of 2000 bytes");
    }
}
