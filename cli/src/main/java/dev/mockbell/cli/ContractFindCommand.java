package dev.mockbell.cli;

import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import dev.mockbell.listing.FinderListener;
import dev.mockbell.listing.FoundContract;
import dev.mockbell.listing.Listing;
import dev.mockbell.problem.Counted;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Names;
import dev.mockbell.project.Project;
import dev.mockbell.project.ProjectStore;
import java.nio.file.Path;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

/** Lists the contracts of a page, a registry or a folder. */
@Command(
        name = "find",
        mixinStandardHelpOptions = true,
        description = {
            "Lists the contracts that a page, an inspection document, a UDDI registry's inquiry or a folder names.",
            "Exit code 1 when none of them can be read."
        })
final class ContractFindCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "ADDRESS", description = "Of the page, document or registry; or a folder.")
    private String address;

    @Option(
            names = "--import",
            paramLabel = "DIR",
            description = "Keeps what was found in a project, made when it is not there.")
    private Path project;

    @Option(names = "--only", paramLabel = "NAME", description = "Keeps those of this name alone; may be repeated.")
    private List<String> only = List.of();

    @Option(names = "--json", description = "As JSON.")
    private boolean json;

    @Mixin
    private Reading reading = new Reading();

    ContractFindCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        try (CommandCore core = new CommandCore(reading)) {
            Listing listing = core.parts()
                    .finder(reading.limits(), reading.asker())
                    .find(address, FinderListener.NONE, core.stop());
            if (json) {
                console.json(json(listing));
            } else {
                listing.contracts().forEach(this::print);
                if (listing.more() > 0) {
                    console.line("and " + Counted.of(listing.more(), "contract") + " more, which were not read");
                }
            }
            if (project != null) {
                keep(core, listing);
            }
            return listing.readable().isEmpty() ? 1 : 0;
        }
    }

    private void print(FoundContract found) {
        String mark = found.contract().isPresent() ? "" : "✗ ";
        console.line(mark + found.name() + "  " + found.words());
        console.line("    " + found.instead().orElse(found.address()));
    }

    private void keep(CommandCore core, Listing listing) {
        ProjectStore store = core.parts().store();
        Path folder = project.toAbsolutePath().normalize();
        Project opened = store.create(folder, String.valueOf(folder.getFileName()));
        Set<String> taken = new HashSet<>();
        opened.contracts().forEach(c -> taken.add(c.name()));
        for (FoundContract found : listing.readable()) {
            if (!only.isEmpty() && !only.contains(found.name())) {
                continue;
            }
            String name = Names.free(found.name(), taken::contains);
            taken.add(name);
            KeptContract kept = store.saveContract(
                    folder, name, found.name(), found.contract().orElseThrow(), Instant.now());
            console.note("Kept " + kept.name() + " in " + folder + ".");
        }
    }

    private static ObjectNode json(Listing listing) {
        ObjectNode node = JsonNodeFactory.instance.objectNode();
        node.put("format", 1)
                .put("address", listing.address())
                .put("kind", listing.kind().noun())
                .put("more", listing.more());
        ArrayNode all = node.putArray("contracts");
        for (FoundContract found : listing.contracts()) {
            ObjectNode one = all.addObject().put("name", found.name()).put("address", found.address());
            one.put("words", found.words());
            one.put("instead", found.instead().orElse(null));
            if (found.contract().isPresent()) {
                ArrayNode operations = one.putArray("operations");
                found.contract().get().operations().keySet().forEach(operations::add);
                ArrayNode ports = one.putArray("ports");
                found.contract()
                        .get()
                        .ports()
                        .forEach(p -> ports.addObject()
                                .put("name", p.name())
                                .put("protocol", p.binding().protocol().code())
                                .put("address", p.address().orElse(null)));
            } else {
                one.put("problem", found.trouble());
            }
        }
        return node;
    }
}
