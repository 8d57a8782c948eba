package dev.mockbell.contract;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.mockbell.contract.Finding.Severity;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.sample.SampleBuilder.Detail;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;
import java.util.Optional;
import javax.xml.namespace.QName;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class ContractReaderTest {
    private final Contract stay = Contracts.stay();

    @Test
    void servicesPortsAndOperationsAreRead() {
        assertThat(stay.ports()).extracting(Port::name).containsExactly("StaySoap11", "StaySoap12");
        assertThat(stay.ports())
                .extracting(p -> p.binding().protocol())
                .containsExactly(Protocol.SOAP11, Protocol.SOAP12);
        assertThat(stay.operations().keySet()).containsExactly("Book", "Tell");
        assertThat(stay.operations().get("Book")).hasSize(2);
        Operation book = stay.operation("Book", null).orElseThrow().operation();
        assertThat(book.soapAction()).contains("urn:stay:book");
        assertThat(book.documentation()).isEqualTo("Books a stay.");
        assertThat(book.faults())
                .extracting(FaultDef::element)
                .containsExactly(java.util.Optional.of(new QName("urn:northfell:stay", "Full")));
        assertThat(stay.operation("Tell", null).orElseThrow().operation().pattern())
                .isEqualTo(Operation.Pattern.ONE_WAY);
    }

    @Test
    void importedAndIncludedSchemasComeAlongEvenWithoutNamespace() {
        assertThat(stay.documents())
                .extracting(d -> d.uri().replaceAll(".*/", ""))
                .containsExactly("stay.wsdl", "stay.xsd", "people.xsd");
        assertThat(stay.schemas().type(new QName("urn:northfell:stay", "Guest")))
                .isPresent();
        assertThat(stay.findings()).extracting(Finding::rule).containsExactly("R2718", "R2740");
    }

    @Test
    void theSameDocumentsGiveTheSameSums() {
        assertThat(stay.documents()).allSatisfy(d -> assertThat(d.sha256()).matches("[0-9a-f]{64}"));
        assertThat(Contracts.stay().documents())
                .extracting(SourceDocument::sha256)
                .isEqualTo(stay.documents().stream().map(SourceDocument::sha256).toList());
    }

    @Test
    void inlineSchemasImportEachOtherWithoutALocation() {
        String a =
                Contracts.schema("<xs:import namespace='urn:b'/><xs:element name='Root' type='b:T' xmlns:b='urn:b'/>");
        String b =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' xmlns:t='urn:t' targetNamespace='urn:b'><xs:import namespace='urn:t'/>"
                        + "<xs:complexType name='T'><xs:sequence><xs:element name='x' type='xs:int'/></xs:sequence></xs:complexType></xs:schema>";
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(a + b));
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.schemas().element(new QName("urn:t", "Root"))).isPresent();
    }

    @Test
    void severalInlineSchemasMayShareANamespace() {
        String one = Contracts.schema("<xs:element name='Root' type='t:T'/>");
        String two = Contracts.schema("<xs:simpleType name='T'><xs:restriction base='xs:int'/></xs:simpleType>");
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(one + two));
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.schemas()
                        .element(new QName("urn:t", "Root"))
                        .orElseThrow()
                        .type()
                        .simple()
                        .orElseThrow()
                        .builtIn())
                .isEqualTo("int");
    }

    @Test
    void documentsMayImportEachOtherInACircle() {
        String xsd =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:t'><xs:include schemaLocation='b.xsd'/>"
                        + "<xs:element name='Root' type='xs:int'/></xs:schema>";
        String other =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' targetNamespace='urn:t'><xs:include schemaLocation='a.xsd'/></xs:schema>";
        String types =
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'><xs:import namespace='urn:t' schemaLocation='a.xsd'/></xs:schema>";
        Contract contract = Contracts.of("w.wsdl", Contracts.wsdl(types), "a.xsd", xsd, "b.xsd", other);
        assertThat(contract.findings()).isEmpty();
        assertThat(contract.documents()).hasSize(3);
    }

    @Test
    void aMissingImportIsAFindingWithItsPlaceAndTheRestWorks() {
        String types = Contracts.schema(
                "<xs:import namespace='urn:gone' schemaLocation='gone.xsd'/>\n<xs:element name='Root' type='xs:int'/>");
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(types));
        assertThat(contract.findings()).singleElement().satisfies(f -> {
            assertThat(f.severity()).isEqualTo(Severity.ERROR);
            assertThat(f.rule()).isEqualTo("missing-import");
            assertThat(f.text()).contains("mem:/gone.xsd");
            assertThat(f.place().line()).isEqualTo(3);
        });
        MessageOutline outline = MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
        assertThat(SampleBuilder.text(outline, Detail.REQUIRED)).contains("Root");
    }

    @Test
    void anElementThatNoSchemaHasIsAFinding() {
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema("")));
        assertThat(contract.findings()).extracting(Finding::rule).contains("unresolved-element");
        assertThat(contract.operations()).containsKey("Do");
    }

    @Test
    void aSchemaErrorIsAFindingAtItsOriginalLine() {
        String types = Contracts.schema("\n\n<xs:element name='Root' type='t:Gone'/>");
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(types));
        assertThat(contract.findings()).anySatisfy(f -> {
            assertThat(f.rule()).isEqualTo("src-resolve");
            assertThat(f.place().document()).isEqualTo("mem:/a.wsdl");
            assertThat(f.place().line()).isEqualTo(5);
        });
    }

    @Test
    void overloadedOperationsAreToldApart() {
        String wsdl = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace(
                        "<portType name=\"P\">",
                        "<portType name=\"P\"><operation name=\"Do\"><input name=\"second\" message=\"tns:M\"/></operation>")
                .replace(
                        "<soap:binding transport=\"http://schemas.xmlsoap.org/soap/http\"/>",
                        "<soap:binding transport=\"http://schemas.xmlsoap.org/soap/http\"/>"
                                + "<operation name=\"Do\"><input name=\"second\"><soap:body use=\"literal\"/></input></operation>");
        assertThat(Contracts.of("a.wsdl", wsdl).operations().keySet()).containsExactly("Do", "Do#2");
    }

    @Test
    void rpcPartsStandUnqualifiedInTheWrapper() {
        String wsdl = Contracts.wsdl(Contracts.schema("<xs:element name='Root' type='xs:int'/>"))
                .replace("<part name=\"p\" element=\"t:Root\"/>", "<part name=\"metres\" type=\"xs:int\"/>")
                .replace("<soap:binding transport", "<soap:binding style=\"rpc\" transport")
                .replace("<soap:body use=\"literal\"/>", "<soap:body use=\"literal\" namespace=\"urn:wrap\"/>");
        Contract contract = Contracts.of("a.wsdl", wsdl);
        Operation operation = contract.operation("Do", null).orElseThrow().operation();
        String sample = SampleBuilder.text(
                MessageOutline.of(contract, operation.output().orElseThrow()), Detail.REQUIRED);
        assertThat(operation.style()).contains(Operation.Style.RPC);
        assertThat(sample)
                .matches("(?s)<(\\w+):DoResponse xmlns:\\1=\"urn:wrap\">\\s*<metres>2</metres>\\s*</\\1:DoResponse>");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            quoteCharacter = '^',
            value = {
                "<!DOCTYPE html><html><body>hi</body></html>|web page",
                "<html><body><form>Password</form></body></html>|login page",
                "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema'/>|XML Schema",
                "<a/>|root <a>",
                "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'/>|SOAP message",
                "just words|plain text",
                "<definitions>|not well-formed"
            })
    void whatIsNoWsdlIsNamed(String text, String words) {
        assertThatThrownBy(() -> Contracts.of("x", text))
                .isInstanceOf(Problem.class)
                .hasMessageContaining(words);
    }

    @Test
    void anEmptyDocumentIsNamed() {
        assertThatThrownBy(() -> Contracts.of("x", ""))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("empty");
    }

    @Test
    void aMissingFileIsToldInASentence(@TempDir Path folder) {
        ContractReader reader = new ContractReader(DocumentFetcher.files(1_000));
        String path = folder.resolve("none.wsdl").toString();
        assertThatThrownBy(() -> reader.read(path, Progress.NONE, new StopSignal()))
                .isInstanceOf(Problem.class)
                .hasMessage("There is no such file (" + path + "). Check the spelling.");
    }

    @Test
    void aContractFromTheNetworkReadsNoFiles() {
        String wsdl = Contracts.wsdl(
                Contracts.schema(
                        "<xs:import namespace='urn:x' schemaLocation='file:///etc/passwd'/><xs:element name='Root' type='xs:int'/>"));
        DocumentFetcher fetcher = (uri, stop) -> {
            if (!uri.getScheme().equals("http")) {
                throw new AssertionError("asked for " + uri);
            }
            return new DocumentFetcher.Fetched(uri, wsdl.getBytes(java.nio.charset.StandardCharsets.UTF_8), "");
        };
        Contract contract =
                new ContractReader(fetcher).read("http://huts.example/x?wsdl", Progress.NONE, new StopSignal());
        assertThat(contract.findings()).extracting(Finding::rule).containsExactly("foreign-import");
    }

    @Test
    void aStopEndsTheReading() {
        StopSignal stop = new StopSignal();
        stop.stop();
        assertThatThrownBy(() -> new ContractReader(DocumentFetcher.files(1 << 20))
                        .read(
                                "x",
                                Contracts.class
                                        .getResource("/contracts/stay.wsdl")
                                        .toURI(),
                                Progress.NONE,
                                stop))
                .isInstanceOf(Problem.class)
                .extracting(p -> ((Problem) p).kind())
                .isEqualTo(Problem.Kind.STOPPED);
    }

    @Test
    void addressesAndImportsAreRewrittenAndNothingElse() {
        Map<String, String> texts = Endpoints.rewritten(
                stay, port -> Optional.of("http://new/" + port), uri -> "moved:" + uri.replaceAll(".*/", ""));
        String wsdl = texts.get(stay.documents().get(0).uri());
        assertThat(wsdl).contains("location=\"http://new/StaySoap11\"").contains("schemaLocation=\"moved:stay.xsd\"");
        assertThat(wsdl).contains("soapAction=\"urn:stay:book\"");
        assertThat(texts.get(stay.documents().get(1).uri())).contains("schemaLocation=\"moved:people.xsd\"");
    }

    @ParameterizedTest
    @CsvSource({
        "huts.example/x?wsdl, http://huts.example/x?wsdl",
        "https://huts.example/a b, https://huts.example/a%20b",
        "huts.example:8080/x?wsdl, http://huts.example:8080/x?wsdl",
        "localhost/x?wsdl, http://localhost/x?wsdl",
        "stand-in:8471/x?wsdl, http://stand-in:8471/x?wsdl",
        "127.0.0.1:8471/x?wsdl, http://127.0.0.1:8471/x?wsdl",
        "10.0.0.7/x?wsdl, http://10.0.0.7/x?wsdl"
    })
    void addressesAreUnderstoodAsMeant(String given, String meant) {
        assertThat(ContractReader.address(given)).hasToString(meant);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {"wsdls/huts.wsdl", "./huts.wsdl", "../x/huts.wsdl", "src/huts.wsdl", "a/b/c", "huts.wsdl", "~/x"
            })
    void whatDoesNotStartWithAHostIsAFileAlsoOneThatIsNotThere(String given) {
        assertThat(ContractReader.address(given).getScheme()).isEqualTo("file");
        assertThatThrownBy(() ->
                        new ContractReader(DocumentFetcher.files(1 << 20)).read(given, Progress.NONE, new StopSignal()))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("no such file");
    }

    @Test
    void aFolderThatIsNamedLikeAHostIsAFolder(@TempDir Path folder) throws IOException {
        Path inside = Files.createDirectory(folder.resolve("huts.example")).resolve("x.wsdl");
        assertThat(ContractReader.address(inside.toString())).isEqualTo(inside.toUri());
    }

    @Test
    void anUnknownKindOfAddressIsRefused() {
        assertThatThrownBy(() -> ContractReader.address("ftp://x/y"))
                .isInstanceOf(Problem.class)
                .hasMessageContaining("Use http, https or a file");
    }
}
