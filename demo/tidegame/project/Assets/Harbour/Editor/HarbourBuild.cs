using System.IO;
using UnityEditor;
using UnityEditor.Callbacks;
using UnityEditor.iOS.Xcode;

public static class HarbourBuild
{
    [PostProcessBuild(100)]
    public static void AfterBuild(BuildTarget target, string path)
    {
        if (target != BuildTarget.iOS) return;
        var file = Path.Combine(path, "Info.plist");
        var plist = new PlistDocument();
        plist.ReadFromFile(file);
        plist.root.SetString("QuaymapKey", "qm_live_5b8e20c19f7a43d6e1b20c94");
        plist.root.SetString("NSLocationWhenInUseUsageDescription", "Shows the harbours near you.");
        plist.WriteToFile(file);
    }
}
