package dev.mockbell.cli;

import dev.mockbell.guide.Guide;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Parameters;

/** The guide, for who has no window. */
@Command(
        name = "guide",
        mixinStandardHelpOptions = true,
        description = "Prints a page of the guide as Markdown, or which pages there are.")
final class GuideCommand implements Callable<Integer> {
    private final Console console;

    @Parameters(paramLabel = "PAGE", arity = "0..1", description = "Such as calling or pipelines.")
    private String page;

    GuideCommand(Console console) {
        this.console = console;
    }

    @Override
    public Integer call() {
        Guide guide = new Guide();
        if (page == null) {
            guide.contents().forEach(e -> console.out().printf("%-14s %s%n", e.name(), e.title()));
        } else {
            console.out().print(guide.page(page).text());
        }
        return 0;
    }
}
